import { DataTypes, type Model, type ModelAttributes, type ModelStatic, type Sequelize } from 'sequelize';
import type * as Rows from './rows';

export type Table<Row extends object> = ModelStatic<Model<Row, Partial<Row>>>;

/** Column types; `uuid` is MariaDB's native one, which Sequelize's own UUID type is not. */
const uuid = 'UUID';
const time = DataTypes.DATE(3);
const text = DataTypes.STRING;
const whole = DataTypes.INTEGER;
const yes = DataTypes.BOOLEAN;
const json = DataTypes.JSON;

type Columns<Row> = { [K in keyof Row]: string | object };

function table<Row extends object>(
  db: Sequelize,
  name: string,
  keys: (keyof Row)[],
  columns: Columns<Row>,
): Table<Row> {
  const attributes = Object.fromEntries(
    Object.entries(columns).map(([column, type]) => [column, { type, primaryKey: keys.includes(column as keyof Row) }]),
  );
  return db.define<Model<Row, Partial<Row>>>(name, attributes as ModelAttributes<Model<Row, Partial<Row>>, Row>, {
    tableName: name,
  });
}

/** One model for each table; the migrations make the tables, these only name their columns. */
export function defineTables(db: Sequelize) {
  return {
    people: table<Rows.PersonRow>(db, 'people', ['id'], {
      id: uuid,
      mail: text,
      name: text,
      passwordHash: text,
      preferences: json,
      createdAt: time,
    }),
    sessions: table<Rows.SessionRow>(db, 'sessions', ['id'], {
      id: uuid,
      tokenHash: text,
      personId: uuid,
      agent: text,
      createdAt: time,
      seenAt: time,
      expiresAt: time,
      revokedAt: time,
    }),
    businesses: table<Rows.BusinessRow>(db, 'businesses', ['id'], {
      id: uuid,
      key: text,
      name: text,
      timeZone: text,
      currency: text,
      createdAt: time,
    }),
    roles: table<Rows.RoleRow>(db, 'roles', ['businessId', 'personId'], {
      businessId: uuid,
      personId: uuid,
      role: text,
      mayRelease: yes,
      seesPeople: yes,
      seesMoney: yes,
    }),
    websites: table<Rows.WebsiteRow>(db, 'websites', ['businessId', 'host'], {
      businessId: uuid,
      host: text,
      registrable: text,
    }),
    releases: table<Rows.ReleaseRow>(db, 'releases', ['businessId', 'number'], {
      businessId: uuid,
      number: whole,
      name: text,
      note: text,
      content: json,
      hash: text,
      madeAt: time,
    }),
    accounts: table<Rows.AccountRow>(db, 'accounts', ['businessId', 'id'], {
      businessId: uuid,
      id: uuid,
      key: text,
      kind: text,
      name: text,
      endpoint: text,
      settings: json,
      secrets: DataTypes.BLOB,
      createdAt: time,
    }),
    visits: table<Rows.VisitRow>(db, 'visits', ['businessId', 'id'], {
      businessId: uuid,
      id: uuid,
      visitorId: uuid,
      startedAt: time,
      endedAt: time,
      pages: whole,
      forms: whole,
      touchId: uuid,
    }),
    touches: table<Rows.TouchRow>(db, 'touches', ['businessId', 'id'], {
      businessId: uuid,
      id: uuid,
      visitorId: uuid,
      visitId: uuid,
      hitId: uuid,
      at: time,
      source: text,
      medium: text,
      campaign: text,
      content: text,
      term: text,
      utmId: text,
      referrer: text,
      landing: text,
      platform: text,
      clickId: text,
      because: text,
      pageBecause: text,
      releaseNumber: whole,
    }),
    strands: table<Rows.StrandRow>(db, 'strands', ['businessId', 'id'], {
      businessId: uuid,
      id: uuid,
      kind: text,
      platform: text,
      clickId: text,
      firstAt: time,
      source: text,
      medium: text,
      campaign: text,
      content: text,
      visitorId: uuid,
      shared: yes,
      formReached: whole,
      formState: text,
      formReason: text,
    }),
    hops: table<Rows.HopTableRow>(db, 'hops', ['businessId', 'strandId', 'wayIn', 'subjectId', 'outcome', 'hop'], {
      businessId: uuid,
      strandId: uuid,
      wayIn: text,
      subjectId: uuid,
      outcome: text,
      hop: text,
      state: text,
      reason: json,
      evidence: text,
      at: time,
      releaseNumber: whole,
    }),
    leads: table<Rows.LeadRow>(db, 'leads', ['businessId', 'id'], {
      businessId: uuid,
      id: uuid,
      accountId: uuid,
      crmPerson: text,
      name: text,
      company: text,
      mailHash: text,
      madeAt: time,
    }),
    enquiries: table<Rows.EnquiryRow>(db, 'enquiries', ['businessId', 'id'], {
      businessId: uuid,
      id: uuid,
      leadToken: uuid,
      leadId: uuid,
      strandId: uuid,
      touchId: uuid,
      visitorId: uuid,
      hitId: uuid,
      form: text,
      page: text,
      sentAt: time,
      visitNumber: whole,
      fields: json,
      fills: json,
      joinedBy: text,
      accountId: uuid,
      crmDeal: text,
      crmRecord: json,
      stage: text,
      releaseNumber: whole,
    }),
    crmEvents: table<Rows.CrmEventRow>(db, 'crm_events', ['businessId', 'id'], {
      businessId: uuid,
      id: uuid,
      accountId: uuid,
      crmEvent: text,
      kind: text,
      deal: text,
      happenedAt: time,
      receivedAt: time,
      readAt: time,
    }),
    outcomes: table<Rows.OutcomeRow>(db, 'outcomes', ['businessId', 'id'], {
      businessId: uuid,
      id: uuid,
      code: text,
      version: whole,
      dedupeKey: text,
      enquiryId: uuid,
      happenedAt: time,
      stage: text,
      skipped: yes,
      amountMinor: DataTypes.BIGINT,
      worthMinor: DataTypes.BIGINT,
      currency: text,
      winRate: text,
      countedAt: time,
      releaseNumber: whole,
    }),
    reportBacks: table<Rows.ReportBackRow>(db, 'report_backs', ['businessId', 'id'], {
      businessId: uuid,
      id: uuid,
      outcomeId: uuid,
      enquiryId: uuid,
      accountId: uuid,
      platform: text,
      state: text,
      reason: json,
      clickId: text,
      dueAt: time,
      answeredAt: time,
      bookedOn: DataTypes.DATEONLY,
      confirmedAt: time,
      madeAt: time,
    }),
    attempts: table<Rows.AttemptRow>(db, 'attempts', ['businessId', 'id'], {
      businessId: uuid,
      id: uuid,
      reportBackId: uuid,
      startedAt: time,
      endedAt: time,
      status: text,
      sent: json,
      answer: text,
    }),
  };
}
export type Tables = ReturnType<typeof defineTables>;

/** Rows of a model as plain objects with the types their interface promises. */
export function plain<Row extends object>(models: Model<Row, Partial<Row>>[]): Row[] {
  return models.map((model) => model.get({ plain: true }) as Row);
}

import type { Context } from '../context';
import type { Crm } from '../crms/crm';
import { now } from '../clock';
import { inTransaction, type CrmWriteRow } from '../db';
import { newId } from '../ids';
import { isRefusal, ServiceAway } from '../platforms/call';
import { storeGone } from './records';
import type { WrittenField } from './table';
import type { WaitingWrite } from './write-queries';

/** What became of what was to be written, and what the CRM or a check before it said. */
export interface WriteEnd {
  state: Exclude<CrmWriteRow['state'], 'waiting'>;
  answer: string;
  /** Whether the CRM says that it does not have one of the fields. */
  lacks?: true;
}
const written: WriteEnd = { state: 'written', answer: '' };
const refused = (answer: string): WriteEnd => ({ state: 'refused', answer: answer.slice(0, 500) });
const dropped = (answer: string): WriteEnd => ({ state: 'dropped', answer: answer.slice(0, 500) });

/** Whether a field can be written into: a CRM that is described by hand knows those that are described. */
export const canHold = ({ contract: { writable } }: Crm, field: string): boolean => writable?.includes(field) ?? true;

/**
 * Writes into one record of the CRM what was stored for it, unless somebody changed it there meanwhile.
 * @throws ServiceAway where it has to be tried again
 */
export async function writeRecord(context: Context, crm: Crm, row: WaitingWrite): Promise<WriteEnd> {
  if (!row.isThere) return dropped('The CRM has the record no more.');
  try {
    if (row.cause === 'note') return await writeNote(crm, row);
    if (row.cause === 'stage') return await moveRecord(crm, row);
    return await writeFields(context, crm, row);
  } catch (error) {
    if (!isRefusal(error)) throw error;
    if (error instanceof ServiceAway && ['404', '410'].includes(error.status) && row.cause !== 'note')
      await inTransaction(context.db, (transaction) =>
        storeGone(
          context,
          { businessId: row.businessId, id: row.accountId },
          row.number,
          { at: now(), mergedInto: '' },
          transaction,
        ),
      );
    return refused((error as Error).message);
  }
}

async function writeFields(context: Context, crm: Crm, row: WaitingWrite): Promise<WriteEnd> {
  const { tables } = context;
  const { contract, account } = crm;
  if (!contract.write) return refused(`${account.name} says no way to write.`);
  const unknown = row.fields.find(({ field }) => !canHold(crm, field));
  if (unknown) return refused(`${account.name} has no place described for \`${unknown.field}\`.`);
  const fields = Object.fromEntries(row.fields.map(({ field, becomes }) => [field, becomes]));
  // As it is at this moment, where the CRM can be asked: what was typed a minute ago is not known here yet.
  const where = { businessId: row.businessId, id: row.dealId };
  const read =
    contract.gives === 'numbers'
      ? await crm.ask(contract.record(row.number))
      : (await tables.deals.findOne({ where, rejectOnEmpty: true })).get({ plain: true });
  if (!('record' in read)) return dropped(`It was merged into \`${read.mergedInto}\`.`);
  const differs = row.fields.filter(({ field, was }) => (read.record.fields[field] ?? '') !== was);
  // Written by a call whose answer never came, perhaps cut to the field's length.
  const isThere = ({ field, becomes }: WrittenField) =>
    (read.record.fields[field] ?? '') !== '' && becomes.startsWith(read.record.fields[field]!);
  const changed = differs.find((one) => !isThere(one));
  if (changed) return dropped(`\`${changed.field}\` was changed there meanwhile.`);
  const ignored = differs.length < row.fields.length ? await crm.ask(contract.write(row.number, fields)) : [];
  const lacks = `${account.name} has no field ${ignored.map((field) => `\`${field}\``).join(', ')}.`;
  if (row.fields.every(({ field }) => ignored.includes(field))) return { ...refused(lacks), lacks: true };
  if (ignored.length > 0) await setAside(context, row, ignored, lacks);
  // A CRM that cannot be asked for its record has what it was told.
  if (contract.gives === 'records')
    await tables.deals.update({ record: { ...read.record, fields: { ...read.record.fields, ...fields } } }, { where });
  return ignored.length > 0 ? { ...written, lacks: true } : written;
}

/** Keeps the fields that the CRM does not have in a row of their own, which was refused; the others were written. */
async function setAside(
  { db, tables }: Context,
  { businessId, id }: WaitingWrite,
  ignored: string[],
  answer: string,
): Promise<void> {
  const isIgnored = ({ field }: WrittenField) => ignored.includes(field);
  await inTransaction(db, async (transaction) => {
    const row = await tables.crmWrites.findOne({ where: { businessId, id }, rejectOnEmpty: true, transaction });
    const whole = row.get({ plain: true });
    const aside = {
      ...whole,
      id: newId(),
      fields: whole.fields.filter(isIgnored),
      writtenAt: now(),
      ...refused(answer),
    };
    await tables.crmWrites.create(aside, { transaction });
    await row.update({ fields: whole.fields.filter((one) => !isIgnored(one)) }, { transaction });
  });
}

/** Adds a note to a record, known by its row: asked for again, the CRM adds none. */
async function writeNote({ contract, account, tell }: Crm, { id, number, fields }: WaitingWrite): Promise<WriteEnd> {
  if (!contract.note) return refused(`${account.name} says no way to add a note.`);
  await tell(contract.note(number, fields[0]!.becomes, id));
  return written;
}

/** Moves a record on, unless somebody moved it meanwhile. */
async function moveRecord({ contract, account, ask, tell }: Crm, { number, fields }: WaitingWrite): Promise<WriteEnd> {
  const { was, becomes } = fields[0]!;
  if (!contract.move) return refused(`${account.name} says no way to move a record.`);
  const read = contract.gives === 'numbers' ? await ask(contract.record(number)) : null;
  if (read && !('record' in read)) return dropped(`It was merged into \`${read.mergedInto}\`.`);
  if (read && read.record.stage !== was && read.record.stage !== becomes)
    return dropped(`It was moved to ${read.record.stage} meanwhile.`);
  if (read?.record.stage !== becomes) await tell(contract.move(number, becomes));
  return written;
}

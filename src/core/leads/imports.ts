/** What is read of a lead in a file, by the names its columns go under. */
export const importParts = [
  ...(['id', 'name', 'company', 'mail', 'telephone', 'enquiredAt'] as const),
  ...(['source', 'medium', 'campaign', 'content', 'term', 'clickId', 'clickedAt'] as const),
];
export type ImportPart = (typeof importParts)[number];

export const importPartWords: Record<ImportPart, string> = {
  id: 'its own number',
  name: 'name',
  company: 'company',
  mail: 'email',
  telephone: 'telephone',
  enquiredAt: 'when they enquired',
  source: 'source',
  medium: 'medium',
  campaign: 'campaign',
  content: 'content',
  term: 'term',
  clickId: 'click ID',
  clickedAt: 'when they clicked',
};

/** Names of columns, in lower case without spaces and marks. */
const usualNames: Record<ImportPart, RegExp> = {
  id: /^(id|number|no|leadid|leadnumber|reference)$/,
  name: /^(name|fullname|contact|contactname|person)$/,
  company: /^(company|business|organisation|organization|companyname|firm)$/,
  mail: /^(e?mail|e?mailaddress)$/,
  telephone: /^(telephone|phone|tel|mobile|telephonenumber|phonenumber)$/,
  enquiredAt: /^(enquiredat|enquired|date|time|at|createdat|created|when|sentat)$/,
  source: /^(utm)?source$/,
  medium: /^(utm)?medium$/,
  campaign: /^(utm)?campaign$/,
  content: /^(utm)?(content|ad)$/,
  term: /^(utm)?term$/,
  clickId: /^click(id)?$/,
  clickedAt: /^click(ed)?(at|time|date)$/,
};

/** Which column holds which part; '' where none does. */
export type ImportColumns = Record<ImportPart, string>;

/** The columns of a file by what they are called. */
export function readImportColumns(names: readonly string[]): { columns: ImportColumns; notRead: string[] } {
  const plain = (name: string) => name.toLowerCase().replace(/[^a-z0-9]/g, '');
  const columns = Object.fromEntries(
    importParts.map((part) => [part, names.find((name) => usualNames[part].test(plain(name))) ?? '']),
  ) as ImportColumns;
  const read = new Set(Object.values(columns));
  return { columns, notRead: names.filter((name) => !read.has(name)) };
}

/** One lead that is brought in. Times in ms. */
export interface ImportedLead {
  /** By which it is known when it is brought in again. */
  key: string;
  name: string;
  company: string;
  mail: string;
  telephone: string;
  enquiredAt: number;
  source: string;
  medium: string;
  campaign: string;
  content: string;
  term: string;
  clickId: string;
  clickedAt: number | null;
}
export type ReadImport = { ok: true; lead: ImportedLead } | { ok: false; field: ImportPart; was: string; fix: string };

const longest: Partial<Record<ImportPart, number>> = {
  name: 120,
  company: 120,
  mail: 254,
  telephone: 40,
  clickId: 300,
};
const mailShape = /^[^\s@<>,;]+@[^\s@<>,;]+\.[^\s@<>,;]+$/;

/**
 * Reads one lead of a file. Who it is must be said by an email address, a telephone number, or a name with a company. Without a
 * number of its own it is known by who it is and when they enquired.
 *
 * @param cells by the names of their columns
 * @param timeOf the instant (ms) of a time as it is written; null for what is none
 * @param now ms, for a lead that does not say when they enquired
 */
export function readImport(
  columns: ImportColumns,
  cells: Readonly<Record<string, string>>,
  timeOf: (text: string) => number | null,
  now: number,
): ReadImport {
  const text = (part: ImportPart) => (columns[part] === '' ? '' : (cells[columns[part]] ?? '').trim());
  const wrong = (field: ImportPart, was: string, fix: string): ReadImport => ({ ok: false, field, was, fix });
  for (const part of importParts) {
    const most = longest[part] ?? 200;
    if (text(part).length > most)
      return wrong(part, `${importPartWords[part]} has ${text(part).length} characters`, `Write at most ${most}.`);
  }
  const [mail, telephone, name, company] = [text('mail'), text('telephone'), text('name'), text('company')];
  if (mail !== '' && !mailShape.test(mail))
    return wrong('mail', `“${mail}” is no email address`, 'Write it as somebody@oriel.example, or leave it empty.');
  if (telephone !== '' && !/^[+(0-9][0-9\s()./-]{5,}$/.test(telephone))
    return wrong('telephone', `“${telephone}” is no telephone number`, 'Write it as 01632 960018, or leave it empty.');
  if (mail === '' && telephone === '' && (name === '' || company === ''))
    return wrong('mail', 'it does not say who it is', 'Give an email, a telephone number, or a name with a company.');
  const times = { enquiredAt: 0, clickedAt: 0 } as { enquiredAt: number | null; clickedAt: number | null };
  for (const part of ['enquiredAt', 'clickedAt'] as const) {
    const given = text(part);
    times[part] = given === '' ? null : timeOf(given);
    if (given !== '' && times[part] === null)
      return wrong(part, `“${given}” is no time`, 'Write it as 2027-02-15 17:00, or 15/02/2027 17:00.');
  }
  const { enquiredAt, clickedAt } = times;
  if (enquiredAt !== null && enquiredAt > now + 86_400_000)
    return wrong('enquiredAt', `“${text('enquiredAt')}” lies ahead`, 'Write when they enquired.');
  if (clickedAt !== null && enquiredAt !== null && clickedAt > enquiredAt)
    return wrong('clickedAt', 'they clicked after they enquired', 'Write when they clicked, or leave it empty.');
  const whoElse = [mail.toLowerCase() || telephone || `${name} ${company}`, text('enquiredAt')].join(' ').trim();
  return {
    ok: true,
    lead: {
      key: text('id') ? `id ${text('id')}` : whoElse,
      name,
      company,
      mail,
      telephone,
      enquiredAt: enquiredAt ?? now,
      source: text('source'),
      medium: text('medium'),
      campaign: text('campaign'),
      content: text('content'),
      term: text('term'),
      clickId: text('clickId'),
      clickedAt,
    },
  };
}

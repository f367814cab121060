import type { EnquiryRow } from '../db';

/** What somebody did to enquire, as the beginning of a sentence. @param forms what people call a form of the website */
export function enquiredBy(
  { form, wayIn }: Pick<EnquiryRow, 'form' | 'wayIn'>,
  forms: (form: string) => string,
): string {
  if (form === '') return 'In the CRM without a form Avrix saw';
  if (wayIn === 'call') return `Called “${form}”`;
  return wayIn === 'form' ? `Sent ${forms(form)}` : `Sent “${form}”`;
}

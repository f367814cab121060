/** Whose record it is, with its number in the CRM; it leads to the enquiry, where there is one. */
export function RecordLink({
  business,
  words,
  name = '',
  number,
  enquiryId,
}: {
  business: string;
  words: string;
  /** Of the person, where the words are a company's. */
  name?: string;
  number: string;
  enquiryId: string;
}) {
  return (
    <>
      {enquiryId ? (
        <a href={`/b/${business}/leads/${enquiryId}`} className="quiet-link font-semibold">
          {words}
        </a>
      ) : (
        <span className="font-semibold">{words}</span>
      )}
      {name && <span className="text-quiet"> {name}</span>}{' '}
      <code className="value text-quiet whitespace-nowrap">{number}</code>
    </>
  );
}

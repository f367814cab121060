/** What kept a form from being saved, where no field of it is to blame. */
export function Problem({ text }: { text: string | undefined }) {
  if (!text) return null;
  return (
    <p role="alert" className="text-error">
      {text}
    </p>
  );
}

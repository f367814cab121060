/** What is wrong with a field, named to it by `aria-describedby`; nothing where nothing is. */
export function Wrong({ id, text }: { id: string; text: string | undefined }) {
  return (
    <p id={id} role="alert" className="text-error mt-1.5 text-[13px] empty:hidden">
      {text && text.charAt(0).toUpperCase() + text.slice(1) + (/[.!?]$/.test(text) ? '' : '.')}
    </p>
  );
}

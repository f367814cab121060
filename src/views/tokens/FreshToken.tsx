import { Copy } from '../../ui/text/Copy';

/** A token just made, shown this once, with a call that uses it. */
export function FreshToken({ token, example, onDone }: { token: string; example: string; onDone(): void }) {
  return (
    <section className="sheet border-accent p-5" aria-label="The new token">
      <h2 className="text-base">Copy it now; it is not shown again.</h2>
      <p className="value mt-2 break-all" data-testid="token">
        {token}
      </p>
      <p className="text-quiet mt-3">Try it:</p>
      <pre className="value bg-base-200 mt-1 overflow-x-auto rounded-[5px] p-2 whitespace-pre">
        {`curl ${example} \\\n  -H 'Authorization: Bearer ${token}'`}
      </pre>
      <div className="mt-4 flex gap-2">
        <Copy text={token} words="Copy the token" />
        <button type="button" className="button h-fit" onClick={onDone}>
          I have it
        </button>
      </div>
    </section>
  );
}

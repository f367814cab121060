import { useEffect, useState } from 'react';
import { isPlainKey } from '../../ui/keys/plain-key';

/** Copies what sales reads, by the button or by `c`; where the browser does not let it, shows the text to be copied. */
export function CopyForSales({ text }: { text: string }) {
  const [state, setState] = useState<'ready' | 'copied' | 'by hand'>('ready');
  const copy = () => {
    const done = navigator.clipboard?.writeText(text) ?? Promise.reject(new Error('no clipboard'));
    done.then(
      () => setState('copied'),
      () => setState('by hand'),
    );
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'c' && isPlainKey(event)) copy();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });
  return (
    <div className="flex flex-col items-end gap-2">
      <button type="button" className="button" onClick={copy}>
        {state === 'copied' ? 'Copied' : 'Copy for sales'}{' '}
        <kbd className="value border-base-300 rounded border px-1">c</kbd>
      </button>
      {state === 'by hand' && (
        <textarea
          readOnly
          className="field value h-32 w-80"
          value={text}
          aria-label="The words for sales"
          onFocus={(e) => e.target.select()}
        />
      )}
      <span className="sr-only" role="status">
        {state === 'copied' ? 'Copied' : ''}
      </span>
    </div>
  );
}

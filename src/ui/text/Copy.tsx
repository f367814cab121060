import { useEffect, useState } from 'react';
import { Key } from '../keys/Key';
import { isPlainKey } from '../keys/plain-key';

/**
 * Copies a text by the button, or by `c` where `byKey`; where the browser does not let it, shows the text to be copied.
 */
export function Copy({ text, words, byKey = false }: { text: string; words: string; byKey?: boolean }) {
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
      if (byKey && event.key === 'c' && isPlainKey(event)) copy();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });
  return (
    <div className="flex flex-col items-end gap-2">
      <button type="button" className="button" onClick={copy}>
        {state === 'copied' ? 'Copied' : words}
        {byKey && <Key k="c" />}
      </button>
      {state === 'by hand' && (
        <textarea
          readOnly
          className="field value h-32 w-80"
          value={text}
          aria-label="What to copy"
          onFocus={(e) => e.target.select()}
        />
      )}
      <span className="sr-only" role="status">
        {state === 'copied' ? 'Copied' : ''}
      </span>
    </div>
  );
}

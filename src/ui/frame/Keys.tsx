import { useEffect, useRef } from 'react';
import { Key } from '../keys/Key';
import { isPlainKey, isTyping } from '../keys/plain-key';

const words: [keys: string, what: string][] = [
  ['g 0', 'the line'],
  ['g 1', 'Plan'],
  ['g 2', 'Links'],
  ['g 3', 'Capture'],
  ['g 4', 'Events'],
  ['g 5', 'Leads'],
  ['g 6', 'Report-backs'],
  ['g 7', 'Results'],
  ['Ctrl K', 'find anything'],
  ['/', 'find in this list'],
  ['j k', 'move in this list'],
  ['Enter', 'open'],
  ['n', 'make a new one here'],
  ['a d x u', 'in Leads: being answered, disqualified, no enquiry, as the CRM says'],
  ['r', 'rehearse: walk a pretend visitor'],
  ['Esc', 'leave a field'],
  ['?', 'these keys'],
];

/** The keys that work on every page, and the sheet that shows them. Single letters can be switched off. */
export function Keys() {
  const sheet = useRef<HTMLDialogElement>(null);

  useEffect(() => {
    let before = '';
    const onKey = (event: KeyboardEvent) => {
      // Escape leaves a field, so that single keys work again.
      if (event.key === 'Escape' && isTyping(event) && !event.defaultPrevented) (event.target as HTMLElement).blur();
      if (!isPlainKey(event)) return;
      const pressed = before === 'g' ? `g ${event.key}` : event.key;
      before = event.key === 'g' ? 'g' : '';
      if (pressed === '?') sheet.current?.showModal();
      else if (pressed === '/') document.querySelector<HTMLInputElement>('[data-find]')?.focus();
      else if (pressed === 'n') document.querySelector<HTMLElement>('[data-new]')?.click();
      else if (pressed.startsWith('g ')) document.querySelector<HTMLAnchorElement>(`[data-key="${pressed}"]`)?.click();
      else return;
      event.preventDefault();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, []);

  return (
    <dialog ref={sheet} aria-label="Keys" className="sheet text-base-content m-auto p-5 backdrop:bg-black/40">
      <h2 className="mb-3 text-lg">Keys</h2>
      <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
        {words.map(([keys, what]) => (
          <div key={keys} className="contents">
            <dt>
              <Key k={keys} />
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <form method="dialog" className="mt-4">
        <button className="button">Close</button>
      </form>
    </dialog>
  );
}

import { useState } from 'react';
import type { KeptView } from '../../core/capture/station-view';
import { ChoicePart } from '../../ui/rule/parts';
import { KeptBar, sentence, useKeptRule, wordsIn, type EditorProps } from './kept-rule';

/* What waits for consent, and what must not stay in addresses. */

export function ConsentRule(props: EditorProps<KeptView['rules']['consent']>) {
  const { rule, edit, bar, disabled } = useKeptRule(props, { kind: 'consent', id: '' });
  return (
    <section className="sheet" aria-label="Consent">
      <p className={sentence}>
        Pages keep and send{' '}
        <ChoicePart
          label="Before consent"
          value={rule.required ? 'required' : 'not'}
          disabled={disabled}
          options={[
            ['not', 'without being asked for consent'],
            ['required', 'nothing before somebody agreed to measurement'],
          ]}
          onChange={(choice) => edit({ required: choice === 'required' })}
        />
        ; “no” clears what is kept.{' '}
        {rule.required && (
          <>
            Who did not agree is{' '}
            <ChoicePart
              label="Who did not agree"
              value={rule.count ? 'counted' : 'not'}
              disabled={disabled}
              options={[
                ['not', 'not counted'],
                ['counted', 'counted without any identifier'],
              ]}
              onChange={(choice) => edit({ count: choice === 'counted' })}
            />
            , and platforms are told of nobody who did not agree to advertising.{' '}
          </>
        )}
        The website says so by its event <code className="value text-[0.86em]">avrix:consent</code>.
      </p>
      <KeptBar bar={bar} mayChange={props.view.mayChange} />
    </section>
  );
}

export function Pii(props: EditorProps<KeptView['rules']['pii']>) {
  const { edit, bar, disabled } = useKeptRule(props, { kind: 'pii', id: '' });
  const [text, setText] = useState(props.rule.names.join(', '));
  return (
    <section className="sheet" aria-label="What says who somebody is">
      <p className={sentence}>
        Mail addresses and telephone numbers are taken out of every address before anything is kept or sent, and
        whatever stands under the names here.
      </p>
      <label className="block px-5 pb-4">
        <span className="text-quiet block text-[12.5px]">Query names that say who somebody is</span>
        <input
          className="field value mt-0.5 w-full"
          value={text}
          disabled={disabled}
          spellCheck={false}
          onChange={(event) => {
            setText(event.target.value);
            edit({ names: wordsIn(event.target.value.toLowerCase()) });
          }}
        />
      </label>
      <KeptBar bar={bar} mayChange={props.view.mayChange} />
    </section>
  );
}

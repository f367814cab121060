import { useState } from 'react';
import type { ClickIdRule } from '../../core/capture';
import { platformName } from '../../core/links/placeholders';
import type { KeptView } from '../../core/capture/station-view';
import { ChoicePart, NumberPart, TextPart } from '../../ui/rule/parts';
import { TakeOut } from '../../ui/rule/TakeOut';
import { KeptBar, sentence, useKeptRule, wordsIn, type EditorProps } from './kept-rule';

/* What is kept of touches and click IDs, and what is none. */

export function TouchRule(props: EditorProps<KeptView['rules']['keep']>) {
  const { touchDays, touchAge, utmLowerCase, setBy } = props.rule;
  const { rule, edit, bar, disabled } = useKeptRule(
    { ...props, rule: { touchDays, touchAge, utmLowerCase, setBy } },
    { kind: 'keep', id: '' },
  );
  return (
    <section className="sheet" aria-label="Touches">
      <p className={sentence}>
        The first and the last touch are kept{' '}
        <NumberPart
          label="Days a touch is kept"
          value={rule.touchDays}
          disabled={disabled}
          onChange={(days) => edit({ touchDays: days })}
        />{' '}
        days,{' '}
        <ChoicePart
          label="Counted from"
          value={rule.touchAge}
          disabled={disabled}
          options={[
            ['renewed', 'counted anew from each visit'],
            ['fixed', 'counted from the touch itself'],
          ]}
          onChange={(age) => edit({ touchAge: age })}
        />
        ; UTM values are kept{' '}
        <ChoicePart
          label="Letters of UTM values"
          value={rule.utmLowerCase ? 'lower' : 'any'}
          disabled={disabled}
          options={[
            ['lower', 'in small letters'],
            ['any', 'as they arrive'],
          ]}
          onChange={(letters) => edit({ utmLowerCase: letters === 'lower' })}
        />
        . Cookies are set by{' '}
        <ChoicePart
          label="Who sets cookies"
          value={rule.setBy}
          disabled={disabled}
          options={[
            ['page', 'the page alone'],
            ['server', `the page and ${props.view.ownEdge}`],
          ]}
          onChange={(by) => edit({ setBy: by })}
        />
        .
      </p>
      {rule.setBy === 'server' && (
        <p className="text-quiet px-5 pb-4">
          Browsers that end a script’s cookies after 7 days let a server’s be. The line must load from{' '}
          <code className="value">{props.view.ownEdge}</code>, which leads to Avrix:{' '}
          <a className="quiet-link" href={`/b/${props.business}/capture/install`}>
            see the line
          </a>
          .
        </p>
      )}
      <KeptBar bar={bar} mayChange={props.view.mayChange} />
    </section>
  );
}

export function ClickId({ isNew = false, ...props }: EditorProps<ClickIdRule> & { isNew?: boolean }) {
  const { rule, edit, bar, disabled } = useKeptRule(props, { kind: 'click_id', id: props.rule.platform }, isNew);
  return (
    <section className="sheet" aria-label={`Click ID of ${platformName(rule.platform)}`}>
      <p className={sentence}>
        The click ID of {platformName(rule.platform)} comes as{' '}
        <TextPart
          label="Query name of the click ID"
          value={rule.parameter}
          disabled={disabled}
          onChange={(parameter) => edit({ parameter: parameter.trim() })}
        />{' '}
        and is kept{' '}
        <NumberPart
          label="Days a click ID is kept"
          value={rule.days}
          disabled={disabled}
          onChange={(days) => edit({ days })}
        />{' '}
        days from its click; without tags it says source{' '}
        <TextPart
          label="Source it says"
          value={rule.source}
          disabled={disabled}
          onChange={(source) => edit({ source })}
        />{' '}
        and medium{' '}
        <TextPart
          label="Medium it says"
          value={rule.medium}
          placeholder="none"
          disabled={disabled}
          onChange={(medium) => edit({ medium })}
        />
        . It is never altered.
      </p>
      <KeptBar bar={bar} mayChange={props.view.mayChange} />
      {props.view.mayChange && !isNew && (
        <TakeOut business={props.business} name={{ kind: 'click_id', id: rule.platform }} />
      )}
    </section>
  );
}

export function Visit(props: EditorProps<KeptView['rules']['touch']>) {
  const { rule, edit, bar, disabled } = useKeptRule(props, { kind: 'visit', id: '' });
  return (
    <section className="sheet" aria-label="Visits">
      <p className={sentence}>
        A visit ends after{' '}
        <NumberPart
          label="Idle minutes that end a visit"
          value={rule.visitMinutes}
          disabled={disabled}
          onChange={(visitMinutes) => edit({ visitMinutes })}
        />{' '}
        idle minutes. Own pages, never a source:{' '}
        <ListPart
          label="Own hosts"
          values={rule.ownHosts}
          disabled={disabled}
          onChange={(ownHosts) => edit({ ownHosts })}
        />
        . Payment and sign-in hosts, no source either:{' '}
        <ListPart
          label="Payment and sign-in hosts"
          values={rule.passThroughHosts}
          disabled={disabled}
          onChange={(passThroughHosts) => edit({ passThroughHosts })}
        />
        .
      </p>
      <KeptBar bar={bar} mayChange={props.view.mayChange} />
    </section>
  );
}

/** A part that is some values, written with commas between them. */
function ListPart({
  label,
  values,
  disabled,
  onChange,
}: {
  label: string;
  values: string[];
  disabled: boolean;
  onChange: (values: string[]) => void;
}) {
  const [text, setText] = useState(values.join(', '));
  return (
    <TextPart
      label={label}
      value={text}
      placeholder="none"
      disabled={disabled}
      onChange={(next) => {
        setText(next);
        onChange(wordsIn(next));
      }}
    />
  );
}

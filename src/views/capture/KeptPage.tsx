import { useEffect, useState } from 'react';
import type { CaptureEffectView, KeptView } from '../../core/capture/station-view';
import type { CarryRule, ClickIdRule } from '../../core/capture';
import { platformName } from '../../core/links/placeholders';
import type { RuleChange, RuleName } from '../../core/releases/rules';
import { Live } from '../../ui/live/Live';
import { DraftBar } from '../../ui/rule/DraftBar';
import { ChoicePart, NumberPart, TextPart } from '../../ui/rule/parts';
import { TakeOut } from '../../ui/rule/TakeOut';
import { useEffectOf } from '../../ui/rule/useEffectOf';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';
import { CaptureEffect } from './CaptureEffect';
import { CaptureFrame } from './CaptureFrame';
import { useView } from '../../ui/live/useView';

interface Props {
  business: string;
  initial: KeptView;
}

/** What pages keep: touches, click IDs, names that carry them, own hosts, and what must not stay in addresses. */
export function KeptPage(props: Props) {
  return (
    <Live>
      <Kept {...props} />
    </Live>
  );
}

interface EditorProps<Rule> {
  business: string;
  view: KeptView;
  rule: Rule;
  /** What is written here, for the effect beside it. */
  onWritten: (change: RuleChange) => void;
}

function Kept({ business, initial }: Props) {
  const view = useView(`/api/b/${business}/capture/kept`, initial);
  const [written, setWritten] = useState<RuleChange | null>(null);
  const { rules } = view;
  const { data: effect } = useEffectOf<CaptureEffectView>(
    `/api/b/${business}/capture/effect`,
    written ? [written] : [{ kind: 'visit', id: '', value: rules.touch }],
  );
  const common = { business, view, onWritten: setWritten };
  const missing = view.platforms.filter(({ kind }) => !rules.keep.clickIds.some(({ platform }) => platform === kind));
  const [adding, setAdding] = useState('');
  const added = missing.find(({ kind }) => kind === adding);
  return (
    <CaptureFrame business={business} section="Kept" view={view}>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[1fr_310px]">
        <div className="flex min-w-0 flex-col gap-4">
          <TouchRule {...common} rule={rules.keep} key={JSON.stringify(rules.keep)} />
          {rules.keep.clickIds.map((rule) => (
            <ClickId {...common} rule={rule} key={JSON.stringify(rule)} />
          ))}
          {added && (
            <ClickId
              {...common}
              isNew
              rule={{ platform: added.kind, parameter: added.parameter, days: 90, source: added.kind, medium: '' }}
            />
          )}
          {view.mayChange && missing.length > 0 && !added && (
            <p>
              {missing.map(({ kind, words }) => (
                <button key={kind} type="button" className="button mr-2" data-new onClick={() => setAdding(kind)}>
                  Keep the click ID of {words} too
                </button>
              ))}
            </p>
          )}
          {rules.carry.map((rule) => (
            <Carry {...common} rule={rule} key={JSON.stringify(rule)} />
          ))}
          <Visit {...common} rule={rules.touch} key={JSON.stringify(rules.touch)} />
          <ConsentRule {...common} rule={rules.consent} key={JSON.stringify(rules.consent)} />
          <Pii {...common} rule={rules.pii} key={JSON.stringify(rules.pii)} />
        </div>
        <CaptureEffect effect={effect} weeks={view.weeks} timeZone={view.timeZone} />
      </div>
    </CaptureFrame>
  );
}

/** A rule on the screen; what is written is told as it changes. */
function useRule<Rule>({ business, view, rule, onWritten }: EditorProps<Rule>, name: RuleName, isNew = false) {
  const editor = useRuleEditor<Rule>({
    ...{ business, stored: isNew ? null : rule, start: rule, changed: view.changed, nameOf: () => name },
  });
  const text = JSON.stringify(editor.rule);
  const { isChanged } = editor;
  useEffect(() => {
    if (isChanged) onWritten({ ...name, value: JSON.parse(text) as unknown });
    // Its name does not change while it stands here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [text, isChanged]);
  return { ...editor, disabled: !view.mayChange };
}

const sentence = 'px-5 py-4 text-[17px] leading-[1.9]';

/** What can be done with a rule; nothing while it stands as it is live. */
function Bar({ bar, mayChange }: { bar: ReturnType<typeof useRule>['bar']; mayChange: boolean }) {
  return mayChange && (bar.changed || bar.inDraft) ? <DraftBar {...bar} onPut={() => bar.onPut()} /> : null;
}

function TouchRule(props: EditorProps<KeptView['rules']['keep']>) {
  const { touchDays, touchAge, utmLowerCase } = props.rule;
  const { rule, edit, bar, disabled } = useRule(
    { ...props, rule: { touchDays, touchAge, utmLowerCase } },
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
        .
      </p>
      <Bar bar={bar} mayChange={props.view.mayChange} />
    </section>
  );
}

function ClickId({ isNew = false, ...props }: EditorProps<ClickIdRule> & { isNew?: boolean }) {
  const { rule, edit, bar, disabled } = useRule(props, { kind: 'click_id', id: props.rule.platform }, isNew);
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
      <Bar bar={bar} mayChange={props.view.mayChange} />
      {props.view.mayChange && !isNew && (
        <TakeOut business={props.business} name={{ kind: 'click_id', id: rule.platform }} />
      )}
    </section>
  );
}

function Carry(props: EditorProps<CarryRule>) {
  const { rule, bar } = useRule(props, { kind: 'carry', id: props.rule.name });
  return (
    <section className="sheet" aria-label={`Carry name ${rule.name}`}>
      <p className={sentence}>
        The click ID of {platformName(rule.platform)} also travels as{' '}
        <code className="value text-[0.86em]">{rule.name}</code>, where its own name is taken out of the address.{' '}
        <a href={`/b/${props.business}/links`} className="quiet-link text-[14px] whitespace-nowrap">
          Put it into a link
        </a>
      </p>
      <Bar bar={bar} mayChange={props.view.mayChange} />
      {props.view.mayChange && <TakeOut business={props.business} name={{ kind: 'carry', id: rule.name }} />}
    </section>
  );
}

function Visit(props: EditorProps<KeptView['rules']['touch']>) {
  const { rule, edit, bar, disabled } = useRule(props, { kind: 'visit', id: '' });
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
      <Bar bar={bar} mayChange={props.view.mayChange} />
    </section>
  );
}

function ConsentRule(props: EditorProps<KeptView['rules']['consent']>) {
  const { rule, edit, bar, disabled } = useRule(props, { kind: 'consent', id: '' });
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
        ; “no” clears what is kept. The website says so by its event{' '}
        <code className="value text-[0.86em]">avrix:consent</code>.
      </p>
      <Bar bar={bar} mayChange={props.view.mayChange} />
    </section>
  );
}

function Pii(props: EditorProps<KeptView['rules']['pii']>) {
  const { edit, bar, disabled } = useRule(props, { kind: 'pii', id: '' });
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
      <Bar bar={bar} mayChange={props.view.mayChange} />
    </section>
  );
}

/** Values written with commas or spaces between them. */
const wordsIn = (text: string) => text.split(/[\s,]+/).filter(Boolean);

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

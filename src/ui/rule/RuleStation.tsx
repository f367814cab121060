import { useState, type ReactNode } from 'react';
import { ruleKind, type ChangedRule, type RuleKindName, type RuleOf } from '../../core/rules';
import type { Beside } from '../../core/rules/says';
import type { Open } from '../address/useOpen';
import { useFocusFirst } from '../form/useFocusFirst';
import { Key } from '../keys/Key';
import { PickList, type Item } from '../list/PickList';
import { DraftBar } from './DraftBar';
import { RuleSentence, type Offers } from './RuleSentence';
import { TakeOut } from './TakeOut';
import { useRuleEditor, type RuleEditor } from './useRuleEditor';

interface Props<Kind extends RuleKindName> {
  business: string;
  kind: Kind;
  view: { changed: ChangedRule[]; mayChange: boolean };
  /** What the list holds. */
  label: string;
  /** What one that is being made is called. */
  fresh: string;
  rules: RuleOf<Kind>[];
  open: Open;
  /** A rule's line in the list. */
  item: (rule: RuleOf<Kind>) => Omit<Item, 'id' | 'href'>;
  /** What a new one begins with; the kind's own start where it is left out. */
  start?: RuleOf<Kind>;
  beside: Beside;
  offers?: Offers;
  title: (rule: RuleOf<Kind>) => string;
  /** Whether one can be taken out here. */
  canGo?: boolean;
  /** In place of the sentence, for a kind that is a table. */
  editor?: (editor: RuleEditor<Kind>) => ReactNode;
  /** Beneath the sentence, on its sheet. */
  beneath?: (editor: RuleEditor<Kind>) => ReactNode;
  /** Sheets beneath that of the rule. */
  also?: (editor: RuleEditor<Kind>) => ReactNode;
  /** What stands beside the rule: what it does to what was recorded. */
  effect: (editor: RuleEditor<Kind>) => ReactNode;
}

/** Begins a new rule; `n` does too. */
export function NewRule({ words, open }: { words: string; open: Open }) {
  return (
    <button type="button" className="button button-strong" data-new onClick={() => open.make()}>
      {words} <Key k="n" strong />
    </button>
  );
}

/** The rules of one kind: their list, the one that is open as a sentence to change, and its effect. */
export function RuleStation<Kind extends RuleKindName>(props: Props<Kind>) {
  const { kind, rules, open, label, fresh, item } = props;
  const idOf = (rule: RuleOf<Kind>) => ruleKind(kind).at.idOf(rule);
  const stored = open.isNew ? null : (rules.find((rule) => idOf(rule) === open.id) ?? rules[0] ?? null);
  const current = stored ? idOf(stored) : '';
  return (
    <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[250px_1fr] xl:grid-cols-[250px_1fr_320px]">
      <PickList
        label={label}
        items={rules.map((rule) => ({ ...item(rule), id: idOf(rule), href: open.href(idOf(rule)) }))}
        current={current}
        onPick={(id) => open.pick(id)}
        fresh={stored ? null : fresh}
      />
      <Editor key={current} {...props} stored={stored} />
    </div>
  );
}

function Editor<Kind extends RuleKindName>({
  business,
  kind,
  view,
  fresh,
  open,
  start,
  beside,
  offers,
  title,
  canGo = true,
  rules,
  stored,
  ...parts
}: Props<Kind> & { stored: RuleOf<Kind> | null }) {
  const { at, start: ownStart } = ruleKind(kind);
  const [begin] = useState((): RuleOf<Kind> => start ?? (ownStart!(beside, rules.map(at.idOf)) as RuleOf<Kind>));
  const editor = useRuleEditor<Kind>({ business, kind, stored, start: begin, changed: view.changed });
  const { rule, setRule, bar } = editor;
  const sheet = useFocusFirst<HTMLElement>(open.isNew);
  return (
    <>
      <div className="flex min-w-0 flex-col gap-4">
        <section ref={sheet} className="sheet min-w-0" aria-label={stored ? title(stored) : fresh}>
          {parts.editor?.(editor) ?? (
            <RuleSentence
              kind={kind}
              rule={rule}
              onEdit={setRule}
              beside={beside}
              disabled={!view.mayChange}
              isNew={stored === null}
              {...(offers ? { offers } : {})}
            />
          )}
          {parts.beneath?.(editor)}
          {view.mayChange && <DraftBar {...bar} onDone={() => open.pick(at.idOf(rule))} />}
          {view.mayChange && stored && canGo && (
            <TakeOut business={business} name={{ kind, id: at.idOf(stored) }} onDone={() => open.close()} />
          )}
        </section>
        {parts.also?.(editor)}
      </div>
      <div className="flex min-w-0 flex-col gap-4 lg:col-start-2 xl:col-start-3">{parts.effect(editor)}</div>
    </>
  );
}

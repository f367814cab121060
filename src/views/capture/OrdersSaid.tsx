import { useState } from 'react';
import type { FormsView } from '../../core/capture/station-view';
import { ruleKinds } from '../../core/rules';
import { RuleSheet } from '../../ui/rule/RuleSheet';

/** Where pages say orders: by a block of JSON in the page, or an event, whose places are written here. */
export function OrdersSaid({ business, view }: { business: string; view: FormsView }) {
  const [isAdding, setAdding] = useState(false);
  const { orders } = view.rules;
  const common = { business, view, beside: { capture: view.rules } };
  const start = ruleKinds.order.start!({}, []);
  return (
    <section className="mt-4 flex flex-col gap-4" aria-label="Orders">
      {orders.map((rule) => (
        <RuleSheet {...common} key={rule.name} kind="order" label={`Orders of ${rule.name}`} stored={rule} />
      ))}
      {isAdding && (
        <RuleSheet
          {...common}
          kind="order"
          label="New orders"
          stored={null}
          start={orders.some(({ name }) => name === start.name) ? { ...start, name: '' } : start}
          onKept={() => setAdding(false)}
        />
      )}
      {view.mayChange && !isAdding && (
        <p className="flex flex-wrap items-center gap-3">
          <button type="button" className="button" onClick={() => setAdding(true)}>
            Count orders too
          </button>
          <span className="text-quiet">
            A thank-you page says its order in a block <code className="value">avrix-page</code>; this rule says what is
            where in it.
          </span>
        </p>
      )}
    </section>
  );
}

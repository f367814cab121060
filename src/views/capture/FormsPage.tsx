import type { FillRule } from '../../core/capture';
import type { JudgedForm } from '../../core/capture/forms-seen';
import { formProblemWords } from '../../core/capture/faults';
import type { FormsView } from '../../core/capture/station-view';
import { readingWords } from '../../core/capture/readings';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { RuleSheet } from '../../ui/rule/RuleSheet';
import { useDraft } from '../../ui/rule/useDraft';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { OrdersSaid } from './OrdersSaid';
import { CaptureFrame } from './CaptureFrame';
import { useView } from '../../ui/live/useView';

interface Props {
  business: string;
  initial: FormsView;
}

/** Every form on the website: its pages, its hidden fields, what fills each, and what it loses. */
export function FormsPage(props: Props) {
  return (
    <Live>
      <Forms {...props} />
    </Live>
  );
}

function Forms({ business, initial }: Props) {
  const view = useView(`/api/b/${business}/capture/forms`, initial);
  return (
    <CaptureFrame business={business} section="Forms seen" view={view}>
      <ul className="flex flex-col gap-4">
        {view.forms.map((form) => (
          <li key={form.form} className="sheet">
            <Form business={business} view={view} form={form} />
          </li>
        ))}
      </ul>
      {view.forms.length === 0 && (
        <p className="sheet text-quiet p-5">
          Nothing was seen yet.{' '}
          <a className="quiet-link" href={`/b/${business}/capture/install`}>
            Install the snippet
          </a>
        </p>
      )}
      <OrdersSaid business={business} view={view} />
    </CaptureFrame>
  );
}

function Form({ business, view, form }: { business: string; view: FormsView; form: JudgedForm }) {
  const draft = useDraft(business);
  const followed = view.rules.forms.find(({ name }) => name === form.form);
  const rules = new Map(view.rules.fill.map((rule) => [rule.id, rule]));
  const columns: Column<JudgedForm['fields'][number]>[] = [
    {
      id: 'field',
      head: 'Hidden field',
      className: 'w-1/2',
      by: ({ name }) => name,
      cell: ({ name }) => <code className="value">{name}</code>,
    },
    {
      id: 'filled',
      head: 'Filled with',
      cell: ({ name, rules: by }) => <FilledWith business={business} field={name} rule={rules.get(by[0] ?? '')} />,
    },
  ];
  return (
    <section className="grid grid-cols-1 gap-x-8 px-5 py-4 lg:grid-cols-[1fr_1fr]" aria-label={form.words || form.form}>
      <div>
        <h2 className="text-base">
          {form.words || 'Not followed'}{' '}
          <code className="value text-quiet ml-1 text-[13px]">{form.form || 'no name'}</code>
        </h2>
        <p className="text-quiet mt-0.5 text-[13px]">
          {form.pages.slice(0, 3).map((page, index) => (
            <span key={page}>
              {index > 0 && ', '}
              <code className="value">{page}</code>
            </span>
          ))}
          {form.pages.length > 3 && ` and ${form.pages.length - 3} more pages`}; last seen{' '}
          <Time iso={new Date(form.lastAt).toISOString()} timeZone={view.timeZone} />
        </p>
        {form.problems.length === 0 ? (
          <p className="text-success mt-3">Every hidden field is filled under the name that the CRM reads.</p>
        ) : (
          <ul className="mt-3 flex flex-col gap-2">
            {form.problems.map((problem) => {
              const { what, mend } = formProblemWords(problem, form.form);
              return (
                <li key={what}>
                  <span className="text-error block">
                    <Words text={what} />
                  </span>
                  <Words text={mend} />{' '}
                  {problem.code === 'unfilled' && view.mayChange && (
                    <a className="quiet-link" href={ruleAddress(business, form.form, problem)}>
                      Write a rule
                    </a>
                  )}
                  {problem.code === 'near' && view.mayChange && (
                    <button
                      type="button"
                      className="quiet-link cursor-pointer"
                      disabled={draft.put.isPending}
                      onClick={() => {
                        const rule = rules.get(problem.rule)!;
                        draft.put.mutate([{ kind: 'fill', id: rule.id, value: { ...rule, field: problem.near } }]);
                      }}
                    >
                      Put it into the rule
                    </button>
                  )}
                </li>
              );
            })}
          </ul>
        )}
        {form.words === '' && form.form !== '' && view.mayChange && (
          <p className="mt-3 flex flex-wrap gap-2">
            {countedAs.map(([counts, words]) => (
              <button
                key={counts}
                type="button"
                className="button"
                disabled={draft.put.isPending}
                onClick={() =>
                  draft.put.mutate([
                    {
                      kind: 'followed_form',
                      id: form.form,
                      value: { name: form.form, words: form.form, counts },
                      from: null,
                    },
                  ])
                }
              >
                Count its sendings as {words}
              </button>
            ))}
          </p>
        )}
        {followed && (
          <div className="mt-3">
            <RuleSheet
              business={business}
              view={view}
              beside={{ capture: view.rules }}
              kind="followed_form"
              label={`What ${form.words} counts as`}
              stored={followed}
            />
          </div>
        )}
        {draft.problem && <p className="text-error mt-2">{draft.problem}</p>}
      </div>
      <div className="mt-3 self-start lg:mt-0">
        <DataTable
          label={`Hidden fields of ${form.form}`}
          rows={form.fields}
          idOf={({ name }) => name}
          columns={columns}
          none="It has no hidden field."
          isPart
        />
      </div>
    </section>
  );
}

const countedAs = [
  ['enquiry', 'enquiries'],
  ['sign_up', 'sign-ups for a subscription'],
] as const;

/** Where a rule for a field that nothing fills is written, with what its name asks for. */
const ruleAddress = (business: string, form: string, { field, reading }: { field: string; reading: string | null }) =>
  `/b/${business}/capture/fields?${new URLSearchParams({ new: 'yes', field, form, ...(reading ? { reading } : {}) })}`;

function FilledWith({ business, field, rule }: { business: string; field: string; rule: FillRule | undefined }) {
  if (rule)
    return (
      <a className="quiet-link" href={`/b/${business}/capture/fields?rule=${encodeURIComponent(rule.id)}`}>
        {readingWords[rule.reading]}
      </a>
    );
  return field === 'avx_lead' ? 'the lead token' : <span className="text-quiet">nothing fills it</span>;
}

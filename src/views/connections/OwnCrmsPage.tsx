import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { readPointer } from '../../core/capture/pointer';
import type { ArrivalsView, ConnectionsView } from '../../core/connections/view';
import { recordsIn } from '../../core/crms/own';
import { recordPlaces } from '../../core/crms/own/mapping';
import type { OwnCrm } from '../../core/crms/schema';
import { counted, type Sentence } from '../../core/strands';
import { useOpen } from '../../ui/address/useOpen';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import { useDraftWatch } from '../../ui/rule/useDraftWatch';
import type { RuleEditor } from '../../ui/rule/useRuleEditor';
import { readJson } from '../../ui/text/read';
import { Arrivals } from './Arrivals';
import { ConnectionsFrame } from './ConnectionsFrame';
import { FileColumns } from './FileColumns';
import { RecordMapping } from './RecordMapping';
import { Part } from '../../ui/form/rows';
import { ShortName } from './ShortName';
import { WaysOfArrival } from './WaysOfArrival';
import { WriteBack } from './WriteBack';

interface Props {
  business: string;
  initial: ConnectionsView;
  search: string;
}

/** A CRM that a business describes itself: how its records arrive, and what is where in one. */
export function OwnCrmsPage(props: Props) {
  return (
    <Live>
      <OwnCrms {...props} />
    </Live>
  );
}

const sentenceOf = (crms: OwnCrm[]): Sentence => ({
  title:
    crms.length === 0
      ? 'Describe a CRM that Avrix does not know.'
      : `You describe ${counted(crms.length, 'CRM', 'CRMs')} yourself: ${crms.map(({ words }) => words).join(', ')}.`,
  under: 'Paste one example of a record and say what its values are; records may be sent, listed or come in files.',
});

function OwnCrms({ business, initial, search }: Props) {
  useDraftWatch(business);
  const view = useView(`/api/b/${business}/connections`, initial);
  const open = useOpen('crm', search);
  return (
    <ConnectionsFrame
      business={business}
      section="Own CRM"
      sentence={sentenceOf(view.ownCrms)}
      actions={view.mayChange && <NewRule words="Describe a CRM" open={open} />}
    >
      {view.ownCrms.length === 0 && !open.isNew ? (
        <p className="text-quiet">
          You need one record as your CRM gives it, in JSON or as a spreadsheet. Which stage means what is said on Leads
          afterwards.
        </p>
      ) : (
        <RuleStation
          business={business}
          kind="own_crm"
          view={view}
          label="Own CRMs"
          fresh="New CRM"
          rules={view.ownCrms}
          open={open}
          item={({ words, kind, reads }) => ({
            words: words || kind,
            under: reads.number ? `number at ${reads.number}` : 'nothing read yet',
          })}
          beside={{}}
          title={({ words, kind }) => words || kind}
          beneath={(editor) => (
            <>
              {editor.isNew && (
                <ShortName words={editor.rule.words} kind={editor.rule.kind} onKind={(kind) => editor.edit({ kind })} />
              )}
              <Description
                key={editor.isNew ? 'new' : editor.rule.kind}
                business={business}
                view={view}
                editor={editor}
              />
            </>
          )}
          effect={({ rule, isNew }) => <Next business={business} view={view} rule={rule} isNew={isNew} />}
        />
      )}
    </ConnectionsFrame>
  );
}

function Description({
  business,
  view,
  editor: { rule, edit },
}: {
  business: string;
  view: ConnectionsView;
  editor: RuleEditor<'own_crm'>;
}) {
  const disabled = !view.mayChange;
  const [text, setText] = useState('');
  const account = view.accounts.find(({ kind }) => kind === rule.kind);
  const { data } = useQuery({
    queryKey: [`/api/b/${business}/connections/accounts/${account?.id}/arrivals`],
    queryFn: () => readJson<ArrivalsView>(`/api/b/${business}/connections/accounts/${account!.id}/arrivals`),
    enabled: account !== undefined,
  });
  const arrived = data?.arrivals.find(({ record, cameBy }) => record !== null && cameBy !== 'file')?.record;
  const pasted = parse(text);
  const document = pasted.document;
  const at = rule.list?.recordsAt ?? rule.webhook?.recordsAt ?? '';
  const example = document === undefined ? arrived : (recordsIn(document, at)[0] ?? undefined);
  const places = document === undefined ? [] : recordPlaces(document);
  const usesJson = rule.webhook !== null || rule.list !== null;
  return (
    <>
      <WaysOfArrival rule={rule} places={places} disabled={disabled} onEdit={edit} />
      {usesJson && (
        <Part
          heading="What is where in a record"
          under={
            arrived === undefined || text !== ''
              ? 'Paste one example: a record, or an answer with records in it.'
              : 'This is the newest record that arrived. Paste another example to work with that.'
          }
        >
          <textarea
            className="field value h-28 w-full text-[12px]"
            aria-label="An example of a record"
            placeholder={'{ "id": 1042, "stage": "Meeting", "contact": { "email": "anna@bakery.example" } }'}
            value={text}
            spellCheck={false}
            onChange={(event) => setText(event.target.value)}
          />
          {pasted.wrong && (
            <p role="alert" className="text-error mt-1">
              {pasted.wrong}
            </p>
          )}
          {document !== undefined && example === undefined && (
            <p className="text-error mt-1">
              There is no record at <code className="value">{at || 'the whole of it'}</code> in the example
              {Array.isArray(readPointer(document, at)) && ': the list there is empty'}.
            </p>
          )}
          <RecordMapping
            example={example}
            reading={rule.reads}
            disabled={disabled}
            onEdit={(reads) => edit({ reads })}
          />
        </Part>
      )}
      {rule.columns && (
        <FileColumns columns={rule.columns} disabled={disabled} onEdit={(columns) => edit({ columns })} />
      )}
      <WriteBack rule={rule} disabled={disabled} onEdit={edit} />
    </>
  );
}

/** What was pasted as JSON, or what is wrong with it. */
function parse(text: string): { document?: unknown; wrong?: string } {
  if (text.trim() === '') return {};
  try {
    return { document: JSON.parse(text) as unknown };
  } catch (error) {
    return { wrong: `This is no JSON: ${(error as Error).message}` };
  }
}

function Next({
  business,
  view,
  rule,
  isNew,
}: {
  business: string;
  view: ConnectionsView;
  rule: OwnCrm;
  isNew: boolean;
}) {
  const accounts = view.accounts.filter(({ kind, state }) => kind === rule.kind && state !== 'retired');
  if (isNew)
    return (
      <section className="sheet text-quiet p-4" aria-label="Next">
        Once it is in the draft it can be connected, and what arrives is shown here.
      </section>
    );
  if (accounts.length === 0)
    return (
      <section className="sheet p-4" aria-label="Next">
        <h2 className="text-base">Next</h2>
        <p className="mt-1">
          <a className="quiet-link" href={`/b/${business}/connections?new=yes&kind=${rule.kind}`}>
            Connect {rule.words}
          </a>
          {rule.webhook ? ': you get the address that it sends to.' : ' with its address and key.'}
        </p>
      </section>
    );
  return accounts.map((account) => (
    <Arrivals key={account.id} business={business} account={account} mayChange={view.mayChange} />
  ));
}

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useState } from 'react';
import { findPlaces } from '../../core/find/places';
import { groupBy } from '../../core/group-by';
import { foundWords, type FoundRow, type FoundView } from '../../core/find/view';
import { Live } from '../live/Live';
import { useSettled } from '../rule/useSettled';
import { readJson } from '../text/read';
import { Time } from '../text/Time';
import { Words } from '../text/Words';

/** The field with what was found: the answer stands in the row, so that nothing has to be opened to read it. */
export default function FindPanel({ business }: { business: string }) {
  return (
    <Live isPage={false}>
      <Panel business={business} />
    </Live>
  );
}

function Panel({ business }: { business: string }) {
  const [written, setWritten] = useState('');
  const text = useSettled(written.trim(), 120);
  const isAsked = text.length >= 2;
  const { data, error, isFetching, isPlaceholderData } = useQuery({
    queryKey: ['find', business, text],
    queryFn: () => readJson<FoundView>(`/api/b/${business}/find?text=${encodeURIComponent(text)}`),
    enabled: isAsked,
    placeholderData: keepPreviousData,
  });
  const rows = isAsked ? (data?.rows ?? []) : [];
  const places = findPlaces(written, 6);
  const isLooking = isAsked && (isFetching || isPlaceholderData || text !== written.trim());
  const said = statusWords(written.trim(), isLooking && rows.length === 0, rows.length + places.length);
  const open = (path: string) => location.assign(`/b/${business}${path}`);
  return (
    <Command label="Find anything" shouldFilter={false} loop>
      <Command.Input
        autoFocus
        value={written}
        onValueChange={setWritten}
        maxLength={300}
        placeholder="Email, telephone, company, CRM number, order, click ID, campaign, link, page"
        className="border-base-300 w-full border-b bg-transparent px-5 py-3.5 text-[16px] outline-none"
      />
      <Command.List className="max-h-[56vh] overflow-y-auto p-2 empty:p-0" aria-busy={isLooking}>
        {[...groupBy(rows, ({ kind }) => kind)].map(([kind, own]) => (
          <Group key={kind} heading={foundWords[kind]}>
            {own.map((row) => (
              <Found key={row.id} row={row} timeZone={data!.timeZone} onOpen={() => open(row.path)} />
            ))}
          </Group>
        ))}
        {places.length > 0 && (
          <Group heading="Pages">
            {places.map(([words, , path]) => (
              <Row key={path} value={`page ${path}`} onOpen={() => open(path)}>
                <span className="font-semibold">{words}</span>
              </Row>
            ))}
          </Group>
        )}
      </Command.List>
      {error ? (
        <p role="alert" className="text-error px-5 pb-3">
          Nothing could be looked up: <Words text={error.message} />
        </p>
      ) : (
        <p role="status" className={said ? 'text-quiet px-5 pb-3' : 'sr-only'}>
          {said}
        </p>
      )}
    </Command>
  );
}

function statusWords(text: string, isLooking: boolean, found: number): string {
  if (text.length < 2) return 'Type or paste at least two characters. Enter opens, Esc closes.';
  if (isLooking) return 'Looking …';
  return found === 0
    ? `Nothing here is called “${text}”. Emails, telephone numbers and click IDs are found whole.`
    : '';
}

function Group({ heading, children }: { heading: string; children: React.ReactNode }) {
  return (
    <Command.Group heading={<span className="text-quiet block px-3 pt-2 pb-1 text-[12.5px]">{heading}</span>}>
      {children}
    </Command.Group>
  );
}

function Row({ value, onOpen, children }: { value: string; onOpen: () => void; children: React.ReactNode }) {
  return (
    <Command.Item
      value={value}
      onSelect={onOpen}
      className="data-[selected=true]:bg-primary data-[selected=true]:text-primary-content group flex cursor-pointer items-baseline gap-4 rounded-[4px] px-3 py-1.5"
    >
      {children}
    </Command.Item>
  );
}

const quiet = 'text-quiet group-data-[selected=true]:text-primary-content';

function Found({ row, timeZone, onOpen }: { row: FoundRow; timeZone: string; onOpen: () => void }) {
  const { kind, id, title, answer, at, standing, isLost } = row;
  return (
    <Row value={`${kind} ${id}`} onOpen={onOpen}>
      <span className="min-w-0 flex-1">
        <span className="block font-semibold [overflow-wrap:anywhere]">
          <Words text={title} />
        </span>
        <span className={`block text-[13px] [overflow-wrap:anywhere] ${quiet}`}>
          <Words text={answer} />
          {at && (
            <>
              {answer && ', '}
              <Time iso={at} timeZone={timeZone} />
            </>
          )}
        </span>
      </span>
      <span
        className={`max-w-[46%] text-right text-[13px] ${isLost ? 'text-error group-data-[selected=true]:text-primary-content' : quiet}`}
      >
        <Words text={standing} />
      </span>
    </Row>
  );
}

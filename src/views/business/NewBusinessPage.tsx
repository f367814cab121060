import { codes } from 'currency-codes';
import { useEffect, useMemo } from 'react';
import { hostOfWebsite, newBusinessSchema } from '../../core/businesses/schema';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { useAppForm } from '../../ui/form/useAppForm';
import { Live } from '../../ui/live/Live';
import { sendJson } from '../../ui/text/read';

/** Currencies by the part of the world that a browser's language names; where it names none, nothing is guessed. */
const currencyOfRegion: Record<string, string> = {
  GB: 'GBP',
  US: 'USD',
  CA: 'CAD',
  AU: 'AUD',
  NZ: 'NZD',
  CH: 'CHF',
  SE: 'SEK',
  NO: 'NOK',
  DK: 'DKK',
  PL: 'PLN',
  CZ: 'CZK',
  HU: 'HUF',
  RO: 'RON',
  JP: 'JPY',
  IN: 'INR',
  BR: 'BRL',
  MX: 'MXN',
  ZA: 'ZAR',
  SG: 'SGD',
  TR: 'TRY',
  ...Object.fromEntries(
    ['IE', 'NL', 'BE', 'FR', 'DE', 'AT', 'ES', 'PT', 'IT', 'FI', 'GR', 'LU', 'EE', 'LV', 'LT', 'SI', 'SK', 'CY', 'MT']
      .concat(['HR'])
      .map((region) => [region, 'EUR']),
  ),
};

interface Props {
  isFirst: boolean;
  /** Where somebody goes who makes none after all. */
  home: string | null;
}

/** Makes a business of what one knows of it at once: its name, its website, where its days begin, what it counts in. */
export function NewBusinessPage(props: Props) {
  return (
    <Live>
      <NewBusiness {...props} />
    </Live>
  );
}

function NewBusiness({ isFirst, home }: Props) {
  const form = useAppForm({
    name: 'new business',
    schema: newBusinessSchema,
    isStored: false,
    values: { name: '', website: '', timeZone: '', currency: '' },
    async save(wanted) {
      const { key } = (await sendJson('/api/businesses', wanted)) as { key: string };
      window.location.assign(`/b/${key}`);
    },
  });
  const zones = useMemo(() => Intl.supportedValuesOf('timeZone').map((value) => ({ value })), []);
  const currencies = useMemo(() => codes().map((value) => ({ value })), []);
  // What the browser knows is a beginning: it never replaces what somebody wrote.
  const { setValue, watch } = form;
  useEffect(() => {
    if (watch('timeZone') === '') setValue('timeZone', Intl.DateTimeFormat().resolvedOptions().timeZone);
    const region = new Intl.Locale(navigator.language).maximize().region ?? '';
    if (watch('currency') === '') setValue('currency', currencyOfRegion[region] ?? '');
  }, [setValue, watch]);
  const host = hostOfWebsite(watch('website'));
  return (
    <div className="grid gap-10 md:grid-cols-[1fr_1.15fr]">
      <div>
        <h1 className="text-[25px]">{isFirst ? 'Make your first business.' : 'Make another business.'}</h1>
        <p className="text-quiet mt-2 max-w-[34em]">
          A business is one company with its websites, its naming plan and its line. What it starts with can be changed
          later, and what others here have made stays as it is.
        </p>
        <h2 className="mt-8 text-base">What comes next</h2>
        <ol className="text-quiet mt-2 list-decimal space-y-1 pl-5">
          <li>Paste the snippet into {host || 'your website'}.</li>
          <li>See the first tagged landing on the line.</li>
          <li>Agree the names for your links in Plan.</li>
        </ol>
      </div>
      <form onSubmit={form.onSubmit} className="sheet p-6" noValidate>
        <Field form={form} name="name" words="Name" placeholder="Larkmoor Cargo Bikes" autoComplete="organization" />
        <div className="mt-4">
          <Field
            form={form}
            name="website"
            words="Address of its website"
            placeholder="https://www.larkmoor.example"
            isValue
          />
          <p className="text-quiet mt-1 text-[12.5px]">
            {host ? `Pages on ${host} and its other subdomains are its own.` : 'More websites can be added later.'}
          </p>
        </div>
        <div className="mt-4 grid grid-cols-[1.6fr_1fr] gap-4">
          <Field form={form} name="timeZone" words="Time zone its days begin in" choices={zones} isValue />
          <Field form={form} name="currency" words="Currency" choices={currencies} isValue />
        </div>
        <div className="mt-6 flex items-center gap-5">
          <button className="button button-strong" disabled={form.isSaving}>
            Make business
          </button>
          {home && (
            <a href={home} className="quiet-link">
              Back to the line
            </a>
          )}
        </div>
        <Problem text={form.problem} />
      </form>
    </div>
  );
}

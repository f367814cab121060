import { createHmac } from 'node:crypto';
import { z } from 'zod';
import { carriedParameter } from '../../core/capture/elsewhere';
import type { Elsewhere, FillReport, FormSentHit, Kept } from '../../core/capture';
import { keptClickSchema, keptValueSchema, touchSchema, visitorSchema } from '../../core/capture/schema';
import { AvrixError } from '../../core/errors';
import { captureRules } from '../../core/releases';
import { readBodyAs } from '../../core/read-as';
import type { KnownBusiness } from '../businesses';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { newId } from '../ids';
import type { Releases } from '../releases/releases';
import { sameText } from '../secrets';
import type { Collect } from './collect';

const minute = 60_000;
/** How long (ms) signed values open another of the business's pages; a link of a page that stays open is signed anew. */
const opensFor = 30 * minute;
/** How long (ms) after they were signed an answer of an outside place is still taken. */
const returnsFor = 30 * 24 * 60 * minute;

const keptSchema = z.strictObject({
  visitor: visitorSchema.nullable(),
  first: touchSchema.nullable(),
  last: touchSchema.nullable(),
  clicks: z.array(keptClickSchema).max(20),
  values: z.array(keptValueSchema).max(20),
});
const askSchema = z.strictObject({ place: z.string().max(60), page: z.url().max(2000), kept: keptSchema });

/** What is signed: the values, where they lead, and what an answer is to be recorded as. Times in ms. */
const signedSchema = z.strictObject({
  business: z.string(),
  place: z.string(),
  page: z.string(),
  kept: keptSchema,
  at: z.number(),
  release: z.number(),
  /** The lead token of whatever is asked there, and the hit that its answer becomes. */
  leadToken: z.uuid(),
  hit: z.uuid(),
});
type Signed = z.infer<typeof signedSchema>;

/** Values that follow visitors to places outside: signed here, read here again, and what comes back of them. */
export function makeCarried({ config }: Pick<Context, 'config'>, releases: Releases, collect: Collect) {
  const sealOf = (text: string) =>
    createHmac('sha256', config.secretKey).update(`carried ${text}`).digest('base64url').slice(0, 32);

  async function placeOf(business: KnownBusiness, name: string): Promise<Elsewhere> {
    const place = captureRules(await releases.live(business.id)).elsewhere.find((one) => one.name === name);
    if (!place) throw new AvrixError('AVX_PLACE_UNKNOWN', { place: name });
    return place;
  }

  /** @throws AVX_CARRIED_WRONG where it was not signed for this business */
  function unsign(business: KnownBusiness, text: string): Signed {
    const [body = '', seal = ''] = text.split('.');
    if (!sameText(sealOf(body), seal)) throw new AvrixError('AVX_CARRIED_WRONG');
    const signed = signedSchema.safeParse(JSON.parse(Buffer.from(body, 'base64url').toString('utf8')));
    if (!signed.success || signed.data.business !== business.key) throw new AvrixError('AVX_CARRIED_WRONG');
    return signed.data;
  }

  /** Records what came back as a form that was sent at that place; the same again changes nothing. */
  async function record(business: KnownBusiness, place: Elsewhere, signed: Signed, at: number): Promise<void> {
    const { kept, page, release, leadToken, hit } = signed;
    if (!kept.visitor) throw new AvrixError('AVX_CARRIED_WRONG');
    const { visitor, ...rest } = kept;
    const sent: FormSentHit = {
      kind: 'form_sent',
      id: hit,
      at,
      release,
      visitor: visitor.id,
      visit: visitor.visitId,
      address: page,
      referrer: '',
      kept: { works: true, ...rest },
      form: place.name,
      leadToken,
      fields: [carriedParameter],
      fills: fillsOf(kept),
    };
    const refused = await collect(business, JSON.stringify({ clock: nowMs(), hits: [sent] }));
    if (refused[0]) throw new AvrixError('AVX_FIELD_WRONG', { ...refused[0] });
  }

  return {
    /**
     * Signs what a page keeps, for a place that the live release leads values to.
     * @throws AVX_BODY_NOT_JSON, AVX_FIELD_WRONG, AVX_PLACE_UNKNOWN
     */
    async sign(business: KnownBusiness, body: string): Promise<string> {
      const { place, page, kept } = readBodyAs(askSchema, body, 'Send {"place", "page", "kept"}.');
      await placeOf(business, place);
      const { number } = await releases.live(business.id);
      const signed: Signed = {
        business: business.key,
        place,
        page,
        kept,
        at: nowMs(),
        release: number,
        leadToken: newId(),
        hit: newId(),
      };
      const text = Buffer.from(JSON.stringify(signed)).toString('base64url');
      return `${text}.${sealOf(text)}`;
    },

    /**
     * What came with the address of one of the business's own pages. Where people come back from a place outside with
     * it, that is recorded.
     * @throws AVX_CARRIED_WRONG, AVX_CARRIED_OLD, AVX_PLACE_UNKNOWN
     */
    async open(business: KnownBusiness, text: string): Promise<{ place: string; kept: Kept }> {
      const signed = unsign(business, text);
      const place = await placeOf(business, signed.place);
      const age = nowMs() - signed.at;
      if (place.returns === 'thank_you') {
        if (age > returnsFor) throw new AvrixError('AVX_CARRIED_OLD', { limit: '30 days' });
        await record(business, place, signed, nowMs());
      } else if (age > opensFor) throw new AvrixError('AVX_CARRIED_OLD', { limit: '30 minutes' });
      return { place: place.name, kept: signed.kept };
    },

    /**
     * Takes what the back end of a place, or a row of its file, tells: the signed values as they came, and when it
     * happened (RFC 3339; now without it). The signature is what it is known by.
     * @throws AVX_BODY_NOT_JSON, AVX_FIELD_WRONG, AVX_CARRIED_WRONG, AVX_CARRIED_OLD, AVX_PLACE_UNKNOWN
     */
    async takeReturned(business: KnownBusiness, body: string): Promise<void> {
      const { avx_to, happened_at } = readBodyAs(returnedSchema, body, 'Send {"avx_to", "happened_at"}.');
      const signed = unsign(business, avx_to);
      const place = await placeOf(business, signed.place);
      const at = happened_at ? Date.parse(happened_at) : nowMs();
      if (at - signed.at > returnsFor) throw new AvrixError('AVX_CARRIED_OLD', { limit: '30 days' });
      if (at < signed.at)
        throw new AvrixError('AVX_FIELD_WRONG', {
          field: 'happened_at',
          was: `${happened_at} is before the page was left`,
          fix: 'Give the time at which it happened, with its offset.',
        });
      await record(business, place, signed, at);
    },
  };
}
export type Carried = ReturnType<typeof makeCarried>;

const returnedSchema = z.object({
  avx_to: z.string().min(1).max(8000),
  happened_at: z.iso.datetime({ offset: true, error: 'must be a time such as 2027-02-01T09:00:00Z' }).optional(),
});

/** Which values went along, as a form's report says it. */
function fillsOf({ clicks, last }: Kept): FillReport[] {
  const line = (reading: 'click_id' | 'last_source', value: string): FillReport => ({
    rule: 'elsewhere',
    field: carriedParameter,
    near: '',
    reading,
    value,
    state: value === '' ? 'no_value' : 'filled',
  });
  return [line('click_id', clicks.at(-1)?.clickId ?? ''), line('last_source', last?.source ?? '')];
}

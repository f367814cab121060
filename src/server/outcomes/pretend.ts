import { AvrixError, fieldsWrong } from '../../core/errors';
import { countOutcome, noStages, readAmount, type OutcomeRule } from '../../core/outcomes';
import { quoteValue } from '../../core/quote-value';
import { pretendHappening, subjectOf } from '../../core/outcomes/pretend';
import type { PretendGiven } from '../../core/outcomes/schema';
import type { PretendView } from '../../core/outcomes/view';
import type { TryView } from '../../core/connections/view';
import { contractOf } from '../../core/platforms';
import { linksOf } from '../../core/platforms/links';
import { outcomeTellings } from '../../core/rehearsal/tellings';
import { nothingKnown } from '../../core/rehearsal/known';
import { tellingRules, type Release } from '../../core/releases';
import type { Strand } from '../../core/strands';
import { nowMs } from '../clock';
import type { makeTryAccounts } from '../connections/try';
import type { Context } from '../context';
import { newId } from '../ids';
import type { Membership } from '../people/people';
import type { Accounts } from '../platforms/accounts';
import type { makeKnownWorld } from '../rehearsals/world';
import { requireEditor, type Draft } from '../releases/draft';
import { moneyWords } from '../strands/trace-events';

const day = 86_400_000;
/** In place of a click ID where no click of the platform was ever seen. */
const madeUpClick = 'avrix-try';

/** Tries outcomes out by one pretend hit. Nothing of it is counted or kept, here or at the platform. */
export function makePretend(
  { tables }: Context,
  draft: Draft,
  accounts: Accounts,
  worlds: Pick<ReturnType<typeof makeKnownWorld>, 'accountsOf'>,
  tries: Pick<ReturnType<typeof makeTryAccounts>, 'tryRow'>,
) {
  /** The click ID of the newest click of a kind of platform. */
  async function newestClick(businessId: string, platform: string): Promise<string> {
    const where = { businessId, platform, kind: 'click' as const };
    const row = await tables.strands.findOne({ where, order: [['firstAt', 'DESC']] });
    return row?.get({ plain: true }).clickId ?? madeUpClick;
  }

  /** What would be reached, and what each account would be told of it, by the rules of the draft. */
  async function workOut({ business }: Membership, given: PretendGiven) {
    const rule: OutcomeRule = given.outcome;
    requireAmount(given);
    const { draft: content } = await draft.content(business.id);
    const own = await worlds.accountsOf(business.id, content);
    const at = nowMs();
    const counted = countOutcome(pretendHappening(given, at), rule, content.crm?.stages ?? noStages);
    const clickId = given.platform === '' ? '' : await newestClick(business.id, given.platform);
    const strand = pretendClick(given, clickId, at);
    // As it would be once it is live.
    const written = { ...content, outcomes: [rule] };
    const release: Release = {
      business: business.id,
      number: 0,
      name: '',
      note: '',
      content: written,
      madeAt: at,
      madeBy: null,
    };
    const isPaid = linksOf(content.platforms).find(({ kind }) => kind === given.platform)?.provesPayment ?? false;
    const tellings = counted
      ? outcomeTellings(
          {
            rule,
            counted,
            subject: { kind: subjectOf(rule), id: 'pretend' },
            strands: strand ? [strand] : [],
            lastPaid: isPaid && strand ? strand.id : null,
            consent: { measurement: 'yes', advertising: 'yes', at },
            crmClickId: subjectOf(rule) === 'enquiry' ? clickId : null,
            stageChanges: [],
            sameAs: '',
            notices: [],
          },
          release,
          { ...nothingKnown(''), currency: business.currency, accounts: own },
        )
      : [];
    return { content, own, counted, tellings, release, clickId };
  }

  return {
    async tryOut(membership: Membership, given: PretendGiven): Promise<PretendView> {
      const { content, own, counted, tellings, release } = await workOut(membership, given);
      const nameOf = (key: string) => own.find((account) => account.key === key)?.name ?? key;
      return {
        isReached: counted !== null,
        worth: counted?.worth && membership.role.seesMoney ? moneyWords(counted.worth) : '',
        tellings: !counted
          ? []
          : tellingRules(release, given.outcome.code).map(({ account, platform }) => {
              const told = tellings.find((one) => one.account === account);
              const name = nameOf(account);
              return {
                account,
                name,
                isTold: told?.state === 'told',
                text: told?.text ?? `${name} is told nothing: the click is none of its own, or not the last paid one.`,
                canTest: told?.state === 'told' && contractOf(platform, content.platforms)?.tests !== undefined,
              };
            }),
      };
    },

    /**
     * Sends what an account would be told to it, as a test.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_NOTHING_TO_TRY where it takes none, or would not be told
     */
    async ask(membership: Membership, given: PretendGiven, key: string): Promise<TryView> {
      requireEditor(membership);
      const { content, tellings, clickId } = await workOut(membership, given);
      const account = await accounts.byKey(membership.business.id, key);
      if (!account) throw new AvrixError('AVX_NOT_FOUND', { what: 'account' });
      const contract = contractOf(account.kind, content.platforms);
      const told = tellings.find((one) => one.account === key && one.state === 'told');
      if (!contract?.tests || !told?.row) throw new AvrixError('AVX_NOTHING_TO_TRY', { name: account.name });
      return tries.tryRow(account, contract, {
        ...told.row,
        eventId: newId(),
        key: { kind: 'click_id', value: clickId },
      });
    },
  };
}

/** A click of a platform so many days before; null where there was none. */
const pretendClick = ({ platform, clickDays }: PretendGiven, clickId: string, at: number): Strand | null =>
  platform === ''
    ? null
    : {
        id: 'pretend',
        kind: 'click',
        platform,
        clickId,
        firstAt: at - clickDays * day,
        source: platform,
        medium: '',
        campaign: '',
        utmId: '',
        content: '',
        visitor: 'pretend',
        marked: '',
      };

/** @throws AVX_FIELD_WRONG where the amount that its worth is made of cannot be read */
function requireAmount({ outcome: { worth }, amount, currency }: PretendGiven): void {
  if (!('field' in worth) || amount.trim() === '' || readAmount(amount, currency)) return;
  throw fieldsWrong([
    {
      field: 'amount',
      was: `${quoteValue(amount)} is no amount in ${currency}`,
      fix: 'Write a decimal number such as 540.00, or nothing.',
    },
  ]);
}

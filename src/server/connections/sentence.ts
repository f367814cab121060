import type { AccountView, WebsiteView } from '../../core/connections/view';
import { listed } from '../../core/listed';
import { counted, type Sentence } from '../../core/strands';

/** What matters now of a business's connections, and what to do. @param readsLeads whether the live rules name a CRM */
export function connectionsSentence(accounts: AccountView[], websites: WebsiteView[], readsLeads: boolean): Sentence {
  const inUse = accounts.filter(({ state }) => state === 'in use');
  const broken = inUse.filter((account) => account.broken);
  const [first] = broken;
  if (first?.broken)
    return {
      title:
        broken.length === 1
          ? `${first.broken.was}.`
          : `${counted(broken.length, 'connection is', 'connections are')} broken: ${listed(broken.map(({ name }) => name))}.`,
      under: broken.length === 1 ? first.broken.fix : 'Each says beneath what is wrong and what to do.',
    };
  const unseen = websites.filter(({ seenAt }) => seenAt === null);
  const platforms = inUse.filter(({ does }) => does === 'platform');
  const crm = inUse.find(({ does }) => does === 'crm');
  const held = inUse.reduce((sum, { did }) => sum + did.held, 0);
  const parts = [
    counted(websites.length, 'website', 'websites'),
    counted(platforms.length, 'platform', 'platforms'),
    ...(crm ? [crm.name] : []),
  ];
  if (inUse.length === 0)
    return {
      title: 'No platform and no CRM is connected yet.',
      under:
        unseen.length === websites.length
          ? 'Paste the snippet into your website first; then connect the CRM and the platforms that you pay for clicks.'
          : 'Connect the CRM that leads go to, and the platforms that you pay for clicks.',
    };
  if (!crm)
    return {
      title: `${capital(listed(parts))}; no CRM.`,
      under: 'Connect the CRM that leads go to, to follow them further.',
    };
  if (!readsLeads)
    return {
      title: `${crm.name} is connected, and no rule reads leads from it.`,
      under: 'Say on Leads which of its fields hold what, and make it live.',
    };
  return {
    title: `${capital(listed(parts))} connected; all of them answer.`,
    under:
      held > 0
        ? `${counted(held, 'report-back is', 'report-backs are')} held; each says why on its trace.`
        : 'What each last answered stands beside it.',
  };
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

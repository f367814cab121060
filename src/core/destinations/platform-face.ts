import { mailHashField, type LinkContract } from '../platforms/contract';
import type { DestinationFace } from './contract';
import { codeNaming, knownNaming } from './naming';

/** What an event's wire can say to any platform beside its name: what it is worth. */
const worthFields = [
  { name: 'worth', words: 'what it is worth, as a number' },
  { name: 'currency', words: 'the currency, such as GBP' },
] as const;

/**
 * A platform as a place that takes events: it is told them as outcomes, of visitors who brought its click ID.
 *
 * @param takesMore whether it takes fields of any name beside those that it knows
 */
export const platformFace = (links: LinkContract, takesMore: boolean): DestinationFace => {
  const fields = [
    ...worthFields,
    ...(links.takesMailHash ? [{ name: mailHashField, words: 'the email address, hashed', isHash: true }] : []),
  ];
  return {
    kind: links.kind,
    words: links.words,
    named: links.named ?? (links.knows ? knownNaming(links.knows) : codeNaming),
    fields,
    fieldProblem: (name) =>
      takesMore
        ? /^[A-Za-z][\w.-]{0,59}$/.test(name)
          ? ''
          : 'must begin with a letter and have only letters, digits, _ . or -'
        : fields.some((field) => field.name === name)
          ? ''
          : `is none that it knows: ${fields.map((field) => field.name).join(', ')}`,
    toldOf:
      links.clickParameter === ''
        ? 'every event'
        : links.tells === 'every click'
          ? 'its clicks'
          : 'its clicks, paid last',
    hasCatalogue: links.hasCatalogue === true,
    page: links.page ?? null,
  };
};

import { listed } from '../listed';
import { quoteValue } from '../quote-value';
import { isUnder } from './address';
import type { CaptureRules, Elsewhere } from './schema';

/** One thing that a place outside can do with values, or cannot. */
export interface Carry {
  what: string;
  holds: boolean;
}

/** What a place outside can carry, from what it is and how its answer comes back. */
export function carries({ kind, host, returns, plain }: Elsewhere, { touch, consent }: CaptureRules): Carry[] {
  const own = host !== '' && touch.ownHosts.some((one) => isUnder(host, one));
  const comesBack = returns === 'thank_you' || returns === 'hook';
  return [
    {
      what:
        kind === 'frame'
          ? 'The frame’s address gets the values once it is in the page.'
          : 'Links that lead there get the values while the page is open.',
      holds: true,
    },
    ...(plain.length > 0
      ? [
          {
            what: `Its address gets ${listed(plain.map(({ name }) => quoteValue(name)))} as plain text: short, unsigned, for whoever reads it there.`,
            holds: true,
          },
        ]
      : []),
    {
      what: own
        ? 'The snippet there takes them up: the visitor, the touches and the click IDs go on.'
        : 'The snippet is not there, so it sets no cookie and fills no field.',
      holds: own && returns === 'restored',
    },
    {
      what: {
        restored: own ? 'A form sent there is an enquiry like any other.' : 'Nothing tells what is sent there.',
        thank_you: 'A person who comes back to a page of the website with `avx_to` is an enquiry, with its lead token.',
        hook: 'Each answer that its back end tells is an enquiry, with its lead token.',
        nothing: 'What is sent there stays unknown here.',
      }[returns],
      holds: comesBack || (own && returns === 'restored'),
    },
    {
      what: consent.required
        ? 'Before somebody agreed to measurement nothing goes along.'
        : 'Once somebody said “no” nothing goes along.',
      holds: true,
    },
  ];
}

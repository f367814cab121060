import { expect, test } from 'vitest';
import { askedJustIn, justInAddress, justInSentence, settledJustIn, type CameIn } from './just-in';
import { justInQuerySchema } from './just-in-view';

const came: CameIn = {
  hits: 41,
  events: 2,
  leads: 1,
  orders: 0,
  underLive: 41,
  minutes: 15,
  release: 7,
  liveSince: '12 Feb, 10:00',
  newest: '',
};

test('the sentence says what came in, and under which release', () => {
  expect(justInSentence(came)).toEqual({
    title: '41 hits, 2 events and 1 lead came in during the last 15 minutes.',
    under: 'All of these hits came under release 7. It has been live since 12 Feb, 10:00.',
  });
  expect(justInSentence({ ...came, events: 0, leads: 0, underLive: 0 })).toEqual({
    title: '41 hits came in during the last 15 minutes.',
    under:
      'None of these hits came under release 7 yet: open pages take it when they are opened next. It has been live since 12 Feb, 10:00.',
  });
  expect(justInSentence({ ...came, underLive: 1 }).under).toContain('1 hit of them came under release 7');
});

test('where nothing came in it says since when, or that nothing ever did', () => {
  const none = { ...came, hits: 0, events: 0, leads: 0, underLive: 0 };
  expect(justInSentence({ ...none, newest: '14 Feb, 09:42' }).title).toBe(
    'Nothing came in during the last 15 minutes; the newest hit is from 14 Feb, 09:42.',
  );
  expect(justInSentence(none).title).toBe('No page has reported yet.');
  expect(justInSentence({ ...none, orders: 1 }).under).toContain('No page reported under release 7.');
});

test('what is shown is the same from its address', () => {
  const browser = '0b54c1c5-8f0c-4b54-9a3f-2f4f2b3a9d11';
  for (const given of [{}, { kinds: 'lead,hit', whose: 'marked', find: 'a b' }, { whose: 'browser', browser }]) {
    const query = justInQuerySchema.parse(given);
    const address = justInAddress(askedJustIn(query), query.find);
    expect(justInQuerySchema.parse(Object.fromEntries(new URLSearchParams(address)))).toEqual(query);
  }
  expect(justInAddress(askedJustIn(justInQuerySchema.parse({ kinds: 'nothing', browser: 'x' })), '')).toBe('');
});

test('a kind that is asked for twice becomes one that is not there yet', () => {
  const asked = askedJustIn(justInQuerySchema.parse({ kinds: 'hit' }));
  expect(settledJustIn({ ...asked, kinds: [{ one: 'hit' }, { one: 'hit' }] }).kinds).toEqual([
    { one: 'hit' },
    { one: 'event' },
  ]);
});

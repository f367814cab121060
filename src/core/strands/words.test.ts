import { describe, expect, it } from 'vitest';
import { countLine, lineSentence, median, traceSentence, type ClickComparison, type FollowedGroup } from '.';
import { waysIn } from '../ways-in';

const form = (name: string) => `the form “${name}”`;
const noClicks: ClickComparison = { clicks: null, missing: 0, surplus: 0, uncounted: 0 };
const group = (reached: number, strands: number, state: FollowedGroup['state'] = 'lost'): FollowedGroup => ({
  reached,
  strands,
  withClickId: strands,
  state,
  reason: { code: 'crm_field_differs', form: 'call-back', sent: 'click_ref', read: 'click_id' },
});

describe('the sentence of the line', () => {
  it('says how many carry their click in the CRM, and why the others do not', () => {
    const { title, under } = lineSentence(
      countLine([group(4, 9), group(5, 20, 'waiting')], noClicks, waysIn.form),
      6,
      waysIn.form,
      form,
    );
    expect(title).toBe('Of 29 enquiries with a known paid click, 20 still carry it in the CRM.');
    expect(under).toBe(
      '9 were lost there: the form “call-back” sends `click_ref`, the CRM reads `click_id`. ' +
        '6 more enquiries came without any known click; they are listed beside the line.',
    );
  });

  it('is another one when nothing was lost, nobody asked, or nothing arrived', () => {
    expect(lineSentence(countLine([group(5, 3, 'waiting')], noClicks, waysIn.form), 0, waysIn.form, form).title).toBe(
      'All 3 enquiries with a known paid click carry it in the CRM.',
    );
    expect(lineSentence(countLine([group(3, 8, 'left')], noClicks, waysIn.form), 0, waysIn.form, form).title).toBe(
      '8 tagged landings, no enquiry with a known paid click yet.',
    );
    expect(lineSentence(countLine([], noClicks, waysIn.form), 0, waysIn.form, form).title).toBe(
      'Nothing has arrived in these days.',
    );
  });
});

describe('the sentence of a trace', () => {
  const sentence = (hop: 'in_crm' | 'kept' | 'qualified' | 'told' | 'confirmed', state: 'lost' | 'waiting' | 'left') =>
    traceSentence(
      'click',
      waysIn.form,
      { reached: 3, stop: { hop, state, reason: { code: 'not_due' } } },
      'Quillsearch',
      form,
      [],
    );
  it('says where the value stands', () => {
    expect(sentence('in_crm', 'lost')).toBe('The click ID stopped at the CRM.');
    expect(sentence('kept', 'lost')).toBe('The click ID was not kept.');
    expect(sentence('told', 'waiting')).toBe('Qualified; not told yet. Not due yet.');
    expect(sentence('confirmed', 'waiting')).toContain('it is not in Quillsearch’s own report yet');
    const unsure = { code: 'maybe_taken', platform: 'Quillsearch' } as const;
    expect(
      traceSentence(
        'click',
        waysIn.form,
        { reached: 6, stop: { hop: 'told', state: 'waiting', reason: unsure } },
        'Quillsearch',
        form,
        [],
      ),
    ).toBe('Qualified; it is not sure whether Quillsearch took it.');
    expect(traceSentence('click', waysIn.form, { reached: 8, stop: null }, 'Quillsearch', form, [])).toBe(
      'Every hop made it: Quillsearch confirmed it.',
    );
  });

  it('never says that all is well where a value changed on the way', () => {
    const cut = { value: 'campaign', hop: 'in_crm', how: 'cut at 18 characters' } as const;
    const all = { reached: 8, stop: null };
    expect(traceSentence('click', waysIn.form, all, 'Quillsearch', form, [cut])).toBe(
      'Quillsearch confirmed it, but its campaign changed in the CRM: cut at 18 characters.',
    );
    expect(
      traceSentence('click', waysIn.form, all, 'Quillsearch', form, [cut, { ...cut, value: 'source', how: 'empty' }]),
    ).toBe(
      'Quillsearch confirmed it, but its campaign changed in the CRM: cut at 18 characters; 1 more value changed too.',
    );
  });

  it('speaks of a campaign that is itself followed as of one thing', () => {
    const cut = { value: 'campaign', hop: 'in_crm', how: 'cut at 18 characters' } as const;
    const stop = { hop: 'qualified', state: 'waiting', reason: null } as const;
    expect(traceSentence('landing', waysIn.form, { reached: 5, stop }, 'Quillsearch', form, [cut])).toBe(
      'The campaign is in the CRM, but it changed there: cut at 18 characters.',
    );
  });

  it('says of a refusal who refused and why', () => {
    const refused = { code: 'refused', platform: 'Quillsearch', answer: 'click too old' } as const;
    const stop = { hop: 'confirmed', state: 'lost', reason: refused } as const;
    expect(traceSentence('click', waysIn.form, { reached: 7, stop }, 'Quillsearch', form, [])).toBe(
      'Qualified and told, but Quillsearch refused: click too old.',
    );
    const old = { hop: 'told', state: 'lost', reason: { code: 'click_too_old', days: 84, limit: 80 } } as const;
    expect(traceSentence('click', waysIn.form, { reached: 6, stop: old }, 'Quillsearch', form, [])).toBe(
      'Qualified, but not told: the click was 80 days old or older.',
    );
  });
});

describe('the median', () => {
  it('is the middle one, or the mean of the two middle ones', () => {
    expect([median([3, 1, 2]), median([4, 1, 2, 3]), median([])]).toEqual([2, 2.5, null]);
  });
});

import { describe, expect, it } from 'vitest';
import { freshRoutine, type RoutineMeans } from '../../src/core/leads/routines/routine';
import { freshCondition } from '../../src/core/leads/segments/condition';
import { idAt, rowsOf } from './place';
import {
  hour,
  day,
  member,
  mails,
  step,
  letters,
  lettersTo,
  begin,
  retire,
  runsOf,
  viewOf,
  letGo,
  onForm,
  asks,
} from './routine-walks';
import { crm, deliver, larkmoor, move, outside, place, qualify, rest, time } from './walks';

/* Routines: what they set and tell, and who is taken. */

describe('What a routine does besides', () => {
  it('writes fields, moves records on, says how far they were answered, and tells colleagues', async () => {
    const id = await begin(
      'All of it',
      [
        step({ does: 'field', field: 'next_step', value: 'call them', onlyEmpty: true }),
        step({ does: 'stage', stage: 'Spoken' }),
        step({ does: 'quality', quality: 'answering' }),
        step({ does: 'tell_mail', to: 'maud@larkmoor.example', words: 'A new test ride' }),
        step({ does: 'field', field: 'next_step', value: 'nothing', onlyEmpty: true }),
      ],
      { ...onForm('test-ride'), ...letGo() },
    );
    const { deal } = await asks();
    await deliver();
    await rest();
    const record = (await (
      await outside.oakledger.app.request(`/api/deals/${deal}`, {
        headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
      })
    ).json()) as { stage: string };
    expect(record.stage).toBe('Spoken');
    const [told] = (await letters()).filter(({ to }) => to === 'maud@larkmoor.example');
    expect(told).toMatchObject({ subject: expect.stringContaining('A new test ride: Bakery') });
    expect(told!.text).toContain('/b/larkmoor/leads/');
    const [run] = await runsOf(id);
    expect(run!.acts.map(({ state }) => state).slice(0, 4)).toEqual(['done', 'done', 'done', 'done']);
    const [row] = await rowsOf<{ quality: string; by: string }>(
      place.db,
      'SELECT quality, said_by AS `by` FROM enquiries WHERE id = ?',
      [run!.enquiryId],
    );
    expect(row).toEqual({ quality: 'answering', by: 'the routine “All of it”' });
    await retire(id);
  });

  it('says what it would do with one lead, and does none of it', async () => {
    const { mail } = await asks();
    const means = {
      ...freshRoutine(idAt(time, 1)),
      steps: [step({ mail: mails.ride }), step({ wait: 'days', amount: 2, does: 'stage', stage: 'Offer' })],
    };
    const before = (await letters()).length;
    const tried = await place.services.routines.tryOn(member, { means, enquiry: mail });
    expect(tried.steps).toMatchObject([
      { problem: '', mail: { to: mail, subject: 'Your test ride', text: expect.stringContaining('Hello Anna') } },
      {
        words: 'move the CRM’s record on to `Offer`.',
        at: expect.stringContaining(new Date(time + 2 * day).toISOString().slice(0, 16)),
      },
    ]);
    expect((await letters()).length).toBe(before);
    await expect(place.services.routines.tryOn(member, { means, enquiry: 'nobody@oriel.example' })).rejects.toThrow();
  });
});

describe('Who is taken', () => {
  const inSegment = (segment: string): Pick<RoutineMeans, 'takes'> => ({
    takes: { ...freshRoutine('').takes, on: 'segment', segment },
  });
  const saveSegment = (name: string, form: string) =>
    place.services.segments.save(member, 'Anna', {
      id: '',
      name,
      isShared: true,
      seen: '',
      means: {
        match: 'all',
        conditions: [
          { ...freshCondition('form'), values: [form] },
          { ...freshCondition('enquired'), when: 'before', days: 3 },
        ],
      },
    });

  it('is whoever time brings into a segment, not who was there before', async () => {
    const { id: segment } = await saveSegment('Call back, three days ago', 'call-back');
    const id = await begin('Three days later', [step({ mail: mails.later })], { ...inSegment(segment), ...letGo() });
    const fresh = await asks({ form: 'call-back' });
    expect(await runsOf(id)).toEqual([]);
    move(time + 3 * day + hour);
    await rest();
    expect(await lettersTo(fresh.mail)).toContain('Any questions?');
    expect(await runsOf(id)).toHaveLength(1);
    await expect(place.services.segments.retire(member, segment, true)).rejects.toMatchObject({
      code: 'AVX_SEGMENT_USED',
    });
    await retire(id);
  });

  it('is held back where many come at once, until somebody says so', async () => {
    const { tables } = place.services.context;
    const id = await begin('Many', [step({ does: 'quality', quality: 'answering' })], {
      takes: { ...freshRoutine('').takes, on: 'stage', stages: ['Moved at once'] },
    });
    const made = Array.from({ length: 130 }, (_, n) => ({
      businessId: larkmoor.id,
      id: idAt(time, 400_000 + n),
      form: 'test-ride',
      page: '/fleet',
      sentAt: new Date(time),
      fields: [],
      marked: '' as const,
      stage: 'Moved at once',
      releaseNumber: 1,
      wayIn: 'form' as const,
      quality: 'unanswered' as const,
      qualityReason: '',
      answeredBy: '',
      saidQuality: '' as const,
      saidReason: '',
      saidBy: '',
      saidAnsweredBy: '',
    }));
    await tables.enquiries.bulkCreate(made as never[]);
    move(time + 2 * hour);
    await rest();
    expect(await viewOf(id)).toMatchObject({ state: 'braked', heldBack: 130, going: 0 });
    await place.services.routines.act(member, { id, what: 'pass_over', those: false });
    move(time + 2 * hour);
    await rest();
    expect(await viewOf(id)).toMatchObject({ state: 'running', going: 0, done: 0 });
    await retire(id);
  });

  it('is each person once, where it says so', async () => {
    const id = await begin('Once each', [step({ mail: mails.ride })], {
      takes: { ...freshRoutine('').takes, on: 'stage', stages: ['Spoken'], once: 'person' },
      ...letGo(),
    });
    const { mail, deal } = await asks();
    const [known] = await rowsOf<{ name: string; company: string }>(
      place.db,
      'SELECT l.name, l.company FROM deals d JOIN leads l ON l.id = d.lead_id WHERE d.number = ?',
      [deal],
    );
    const again = await crm('/api/deals', { person: { ...known!, mail, telephone: '' }, fields: {}, amounts: {} });
    await qualify(deal, 'Spoken');
    await qualify(((await again.json()) as { id: string }).id, 'Spoken');
    expect(await runsOf(id)).toHaveLength(1);
    expect(await lettersTo(mail)).toEqual(['Your test ride']);
    await retire(id);
  });

  it('stays where it is while the routine is paused, and goes on with what it says then', async () => {
    const id = await begin('Paused', [step({ wait: 'hours', amount: 1, mail: mails.ride })], {
      ...onForm('test-ride'),
      ...letGo(),
    });
    const { mail } = await asks();
    await place.services.routines.act(member, { id, what: 'pause', those: false });
    move(time + 2 * hour);
    await rest();
    expect(await lettersTo(mail)).toEqual([]);
    const paused = await viewOf(id);
    expect(paused).toMatchObject({ state: 'paused', dueNow: 1 });
    const means = { ...paused.means, steps: [{ ...paused.means.steps[0]!, mail: mails.call }] };
    await place.services.routines.save(member, { id, name: 'Paused', means, seen: paused.changedAt });
    await expect(
      place.services.routines.save(member, { id, name: 'Paused', means, seen: paused.changedAt }),
    ).rejects.toMatchObject({ code: 'AVX_ROUTINE_CHANGED' });
    await place.services.routines.act(member, { id, what: 'go_on', those: false });
    await rest();
    expect(await lettersTo(mail)).toEqual(['We call you back']);
    await retire(id);
  });
});

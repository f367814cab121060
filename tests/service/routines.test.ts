import { describe, expect, it } from 'vitest';
import { makeServices } from '../../src/server/services';
import { rowsOf } from './place';
import {
  hour,
  day,
  member,
  mails,
  step,
  letters,
  lettersTo,
  fault,
  begin,
  retire,
  runsOf,
  viewOf,
  letGo,
  onForm,
  asks,
} from './routine-walks';
import { ask, larkmoor, move, place, qualify, rest, time } from './walks';

/* Routines: what is sent, once, and when somebody is let go. */

describe('A routine', () => {
  it('sends each form its own email, waits two days, and goes on after a restart, nothing twice', async () => {
    const id = await begin(
      'After a form',
      [
        step({ mail: mails.ride, byForm: [{ form: 'call-back', mail: mails.call }] }),
        step({ wait: 'days', amount: 2, mail: mails.later }),
      ],
      { ...onForm('test-ride', 'call-back'), ...letGo() },
    );
    const ride = await asks();
    const call = await asks({ form: 'call-back' });
    expect(await lettersTo(ride.mail)).toEqual(['Your test ride']);
    expect(await lettersTo(call.mail)).toEqual(['We call you back']);
    expect((await viewOf(id)).going).toBe(2);

    move(time + 2 * day - hour);
    await rest();
    expect(await lettersTo(ride.mail)).toHaveLength(1);

    // Another process goes on where this one ended.
    const other = makeServices({ ...place.services.config, dataDir: `${place.services.config.dataDir}/other` });
    move(time + hour + 60_000);
    await Promise.all([other.runner.runToRest(), place.services.runner.runToRest()]);
    await other.runner.runToRest();
    await other.spool.close();
    await other.context.db.close();
    expect(await lettersTo(ride.mail)).toEqual(['Your test ride', 'Any questions?']);
    expect(await lettersTo(call.mail)).toEqual(['We call you back', 'Any questions?']);
    expect(await viewOf(id)).toMatchObject({ going: 0, done: 2 });
    await rest();
    expect(await lettersTo(ride.mail)).toHaveLength(2);
    await retire(id);
  });

  it('takes nobody who asked before it began, and each enquiry once', async () => {
    const before = await asks();
    const id = await begin('From now on', [step({ mail: mails.ride })], onForm('test-ride'));
    await rest();
    expect(await lettersTo(before.mail)).toEqual([]);
    const after = await asks();
    await qualify(after.deal, 'Spoken');
    await rest();
    expect(await lettersTo(after.mail)).toHaveLength(1);
    await retire(id);
  });

  it('lets go of who replies, but not of who is away', async () => {
    const id = await begin(
      'Until they reply',
      [step({ mail: mails.ride }), step({ wait: 'days', amount: 1, mail: mails.later })],
      { ...onForm('test-ride'), ...letGo() },
    );
    const { secret } = await place.services.mailSetUp.makeSecret(member);
    const [writes, away, gone] = [await asks(), await asks(), await asks()];
    const all = await letters();
    const answer = async (to: string, kind: string) => {
      const { replyTo, bounceOf } = await import('../../standins/brindlepost/replies');
      const letter = all.find((one) => one.to === to)! as never;
      const source = kind === 'bounce' ? bounceOf(letter) : replyTo(letter, 'Thank you', kind === 'away');
      return place.services.takeReply(larkmoor.id, source, `Bearer ${secret}`);
    };
    expect(await answer(writes.mail, 'reply')).toEqual({ taken: 'reply' });
    expect(await answer(away.mail, 'away')).toEqual({ taken: 'neither' });
    expect(await answer(gone.mail, 'bounce')).toEqual({ taken: 'bounce' });
    await expect(place.services.takeReply(larkmoor.id, 'x', 'Bearer wrong')).rejects.toMatchObject({
      code: 'AVX_SEAL_WRONG',
    });
    move(time + day + hour);
    await rest();
    expect(await lettersTo(writes.mail)).toEqual(['Your test ride']);
    expect(await lettersTo(away.mail)).toEqual(['Your test ride', 'Any questions?']);
    expect(await lettersTo(gone.mail)).toEqual(['Your test ride']);
    expect((await runsOf(id)).map(({ why }) => why).sort()).toEqual(['', '', 'replied']);
    const set = await place.services.mailSetUp.view(member);
    expect(set.stops).toMatchObject([{ how: 'bounced', lead: expect.stringContaining('Bakery') }]);
    await retire(id);
  });

  it('lets go at a stage, or a later one, and when somebody says it is no enquiry', async () => {
    const id = await begin('Until an offer', [step({ wait: 'days', amount: 1, mail: mails.later })], {
      ...onForm('test-ride'),
      ...letGo({ stages: ['Offer'] }),
    });
    const [signed, nonsense, stays] = [await asks(), await asks(), await asks()];
    await qualify(signed.deal, 'Signed');
    const runs = await runsOf(id);
    expect(runs.filter(({ state }) => state === 'let_go').map(({ why }) => why)).toEqual(['reached Signed']);
    const [none] = await rowsOf<{ id: string }>(place.db, 'SELECT enquiry_id AS id FROM deals WHERE number = ?', [
      nonsense.deal,
    ]);
    await place.services.answers.setQuality(member, 'Anna', {
      ids: [none!.id],
      quality: 'no_enquiry',
      reason: 'nonsense',
    });
    move(time + day + hour);
    await rest();
    expect(await lettersTo(nonsense.mail)).toEqual([]);
    expect(await lettersTo(stays.mail)).toEqual(['Any questions?']);
    await retire(id);
  });
});

describe('An email', () => {
  it('waits while the mail server is away, is refused for good, or is unsure and not sent twice', async () => {
    const id = await begin('Hard times', [step({ mail: mails.ride })], onForm('test-ride'));
    await fault('busy');
    const waits = await asks();
    expect(await runsOf(id)).toMatchObject([{ state: 'going', why: expect.stringContaining('too much at once') }]);
    await fault('none');
    move(time + hour);
    await rest();
    expect(await lettersTo(waits.mail)).toEqual(['Your test ride']);

    await fault('lost');
    const lost = await asks();
    await fault('none');
    move(time + 7 * hour);
    await rest();
    expect(await lettersTo(lost.mail)).toEqual(['Your test ride']);
    const run = (await runsOf(id)).find(({ acts }) => acts.some(({ state }) => state === 'unsure'))!;
    expect(run.state).toBe('done');

    // Whoever knows better has it sent again, under the same name; also where the server is away just then.
    await fault('busy');
    await place.services.runs.resolveUnsure(member, 'Anna', run.acts[0]!.id, false);
    await rest();
    await fault('none');
    move(time + 7 * hour);
    await rest();
    const both = (await letters()).filter(({ to }) => to === lost.mail);
    expect(both).toHaveLength(2);
    expect(new Set(both.map(({ messageId }) => messageId)).size).toBe(1);
    await retire(id);
  });

  it('is unsure where Avrix ended while it was sent', async () => {
    const id = await begin('Cut off', [step({ wait: 'hours', amount: 1, mail: mails.ride })], onForm('test-ride'));
    const { mail } = await asks();
    const [run] = await runsOf(id);
    const { routineActId } = await import('../../src/core/strands');
    const { means } = await viewOf(id);
    await place.services.context.tables.routineActs.create({
      businessId: larkmoor.id,
      id: routineActId(run!.id, means.steps[0]!.id),
      runId: run!.id,
      routineId: id,
      enquiryId: run!.enquiryId,
      stepId: means.steps[0]!.id,
      does: 'mail',
      state: 'begun',
      at: new Date(time),
      since: new Date(time),
      words: 'Emailed “Your test ride”',
      answer: '',
      mailId: mails.ride,
      mailHash: '',
      sent: null,
    });
    move(time + 2 * hour);
    await rest();
    expect(await lettersTo(mail)).toEqual([]);
    expect((await runsOf(id))[0]).toMatchObject({ state: 'done', acts: [{ state: 'unsure' }] });
    await retire(id);
  });

  it('waits for the record that has the address, and is left out where none comes', async () => {
    const id = await begin('No record', [step({ mail: mails.ride })], onForm('test-ride'));
    await ask({ reaches: false });
    await rest();
    expect(await runsOf(id)).toMatchObject([{ state: 'going', why: 'no email address is known yet' }]);
    for (let days = 0; days < 8; days++) {
      move(time + day);
      await rest();
    }
    expect(await runsOf(id)).toMatchObject([{ state: 'done', acts: [{ state: 'left_out' }] }]);
    await retire(id);
  });

  it('goes to nobody who stopped them, and its link cannot be made up', async () => {
    const { readUnsubscribe } = await import('../../src/server/mail/unsubscribe');
    const id = await begin('With a link', [step({ mail: mails.ride })], onForm('test-ride'));
    const first = await asks();
    const letter = (await letters()).find(({ to }) => to === first.mail)!;
    const [, token = ''] = /stop\/larkmoor\/(\S+)/.exec(letter.text) ?? [];
    const { secretKey } = place.services.config;
    expect(readUnsubscribe(secretKey, token)).toMatch(/^[0-9a-f-]{36}$/);
    expect(readUnsubscribe(secretKey, `${token}x`)).toBeNull();
    expect(letter.source).toContain('List-Unsubscribe-Post: List-Unsubscribe=One-Click');

    const next = first.mail.replace(/\d+/, (n) => String(Number(n) + 1));
    await place.services.mailSetUp.addStop(member, 'Anna', next.toUpperCase());
    const stopped = await asks();
    expect(stopped.mail).toBe(next);
    expect(await lettersTo(stopped.mail)).toEqual([]);
    expect(await runsOf(id)).toMatchObject([
      { acts: [{ state: 'left_out', answer: 'wants no emails' }] },
      { acts: [{ state: 'done' }] },
    ]);
    await retire(id);
  });

  it('is not kept with a name that nothing is known by', async () => {
    const given = { id: '', name: 'Wrong', subject: 'x', text: 'Hello {{ firstname }}', html: '', seen: '' };
    const { mailGivenSchema } = await import('../../src/core/leads/routines/schema');
    expect(mailGivenSchema.safeParse(given).error?.issues[0]?.message).toContain('nothing is known as {{ firstname }}');
  });
});

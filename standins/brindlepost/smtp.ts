import { setTimeout as wait } from 'node:timers/promises';
import { randomUUID } from 'node:crypto';
import PostalMime from 'postal-mime';
import { SMTPServer, type SMTPServerSession } from 'smtp-server';
import { isoNow } from '../shared/clock';
import type { Faults } from '../shared/faults';
import type { Keys } from '../shared/keys';
import type { Rows } from '../shared/store';

/** An email as it was taken. */
export interface Letter {
  id: string;
  at: string;
  from: string;
  to: string;
  subject: string;
  messageId: string;
  text: string;
  source: string;
  /** Why it was refused; '' where it was taken. */
  refused: string;
}

/** The one customer; its programs sign in with a key. */
const user = 'larkmoor';
/** Domains whose mailboxes are all unknown. */
const unknownDomain = /@nobody\.example$/i;

class Refusal extends Error {
  constructor(
    readonly responseCode: number,
    message: string,
  ) {
    super(message);
  }
}

/** Takes emails over SMTP from who signs in; what a mail server would not take is refused with its code. */
export function makeIntake(letters: Rows<Letter>, faults: Faults, keys: Keys) {
  let count = 0;
  const server = new SMTPServer({
    hideSTARTTLS: true,
    allowInsecureAuth: true,
    disableReverseLookup: true,
    logger: false,
    onAuth: ({ username, password: given }, _session, done) =>
      username === user && keys.isKnown(given ?? '')
        ? done(null, { user })
        : done(new Refusal(535, 'user or password not known')),
    onRcptTo: ({ address }, _session, done) =>
      done(unknownDomain.test(address) ? new Refusal(550, 'no such mailbox') : null),
    onData: (stream, session, done) => {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => void take(Buffer.concat(chunks), session).then(...answering(session, done)));
    },
  });

  const answering = (session: SMTPServerSession, done: (error: Error | null, message?: string) => void) =>
    [
      (id: string | null) => {
        if (id !== null) return done(null, `taken as ${id}`);
        for (const connection of server.connections)
          if (connection.session?.id === session.id) connection._socket.destroy();
      },
      (error: Error) => done(error),
    ] as const;

  /** @returns the number it was taken under; null where the connection is lost after it */
  async function take(source: Buffer, { envelope }: SMTPServerSession): Promise<string | null> {
    const { kind, seconds } = faults.setting();
    count += 1;
    if (kind === 'busy') throw new Refusal(451, 'too much at once, try again later');
    if (kind === 'broken') throw new Refusal(451, 'out of order');
    if (kind === 'silent') await wait(120_000);
    if (kind === 'slow') await wait(seconds * 1000);
    const mail = await PostalMime.parse(source);
    const missing = [
      mail.messageId ? '' : 'Message-ID',
      mail.date ? '' : 'Date',
      mail.from ? '' : 'From',
      mail.subject ? '' : 'Subject',
    ].filter(Boolean);
    const refused =
      missing.length > 0
        ? `550 header missing: ${missing.join(', ')}`
        : kind === 'choosy' && count % 3 === 0
          ? '550 not today'
          : '';
    const id = randomUUID();
    letters.put({
      id,
      at: isoNow(),
      from: envelope.mailFrom ? envelope.mailFrom.address : '',
      to: envelope.rcptTo.map(({ address }) => address).join(', '),
      subject: mail.subject ?? '',
      messageId: mail.messageId ?? '',
      text: mail.text ?? '',
      source: source.toString('utf8'),
      refused,
    });
    if (refused) throw new Refusal(550, refused.slice(4));
    return kind === 'lost' ? null : id;
  }

  return {
    listen: (port: number) =>
      new Promise<void>((resolve, reject) => {
        server.on('error', reject);
        server.listen(port, '127.0.0.1', resolve);
      }),
    close: () => server.close(),
  };
}

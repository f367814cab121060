import { Readable } from 'node:stream';
import MailComposer from 'nodemailer/lib/mail-composer';
import SMTPConnection from 'nodemailer/lib/smtp-connection';
import { NotSent, type Reachable } from '../reachable';

/** A mail server, and who writes. */
export interface MailServer {
  host: string;
  port: number;
  security: 'tls' | 'starttls' | 'none';
  user: string;
  password: string;
}
export interface OutgoingMail {
  from: { name: string; address: string };
  to: string;
  replyTo: string;
  subject: string;
  text: string;
  /** '' for none. */
  html: string;
  /** With its angle brackets. */
  messageId: string;
  headers?: Record<string, string>;
}

/**
 * What a mail server said of an email. `later`: it has not taken it and may once it is asked again; `refused`: it never will;
 * `unsure`: it was sent, and the answer never came.
 */
export interface MailAnswer {
  kind: 'taken' | 'later' | 'refused' | 'unsure';
  answer: string;
}
export type SendMail = (server: MailServer, mail: OutgoingMail) => Promise<MailAnswer>;

/** Waits (ms) for a connection, for the greeting, and for an answer. */
const patience = { connectionTimeout: 5000, greetingTimeout: 10_000, socketTimeout: 20_000 };

interface SmtpError extends Error {
  code?: string;
  responseCode?: number;
}

/**
 * Sends emails over SMTP (RFC 5321), each over a connection of its own, to just the address that was checked. The text goes out
 * only once the server asked for it: where the connection is lost before, it was not sent.
 */
export function makeSendMail(reachable: Reachable): SendMail {
  return async (server, { headers = {}, replyTo, html, ...mail }) => {
    let isSent = false;
    try {
      const built = await new MailComposer({
        ...mail,
        headers,
        ...(html ? { html } : {}),
        ...(replyTo ? { replyTo } : {}),
        disableFileAccess: true,
        disableUrlAccess: true,
      })
        .compile()
        .build();
      const { address } = await reachable(server.host, String(server.port));
      const connection = new SMTPConnection({
        ...patience,
        host: address,
        port: server.port,
        secure: server.security === 'tls',
        requireTLS: server.security === 'starttls',
        ignoreTLS: server.security === 'none',
        tls: { servername: server.host },
      });
      const message = new Readable({
        read() {
          isSent = true;
          this.push(built);
          this.push(null);
        },
      });
      try {
        return {
          kind: 'taken',
          answer: await talk(connection, server, { from: mail.from.address, to: mail.to }, message),
        };
      } finally {
        connection.close();
      }
    } catch (error) {
      return answerOf(error as SmtpError, isSent);
    }
  };
}

/** Connects, signs in, and sends. @returns what the server answered */
const talk = (
  connection: SMTPConnection,
  { user, password }: MailServer,
  envelope: { from: string; to: string },
  message: Readable,
): Promise<string> =>
  new Promise((resolve, reject) => {
    connection.once('error', reject);
    connection.once('end', () => reject(new Error('the connection was closed')));
    const send = () =>
      connection.send(envelope, message, (error, info) => (error ? reject(error) : resolve(info?.response ?? '')));
    connection.connect((error) => {
      if (error) reject(error);
      else if (user === '') send();
      else connection.login({ user, pass: password }, (refused) => (refused ? reject(refused) : send()));
    });
  });

function answerOf(error: SmtpError, isSent: boolean): MailAnswer {
  const answer = error.message.replace(/\s+/g, ' ').slice(0, 400);
  if (error instanceof NotSent) return { kind: 'later', answer };
  const { responseCode = 0 } = error;
  // Its own no, of which RFC 5321 says whether it is one for good; who may not sign in may once the password is changed.
  if (error.code === 'EAUTH') return { kind: 'later', answer };
  if (responseCode >= 500) return { kind: 'refused', answer };
  if (responseCode >= 400) return { kind: 'later', answer };
  return { kind: isSent ? 'unsure' : 'later', answer };
}

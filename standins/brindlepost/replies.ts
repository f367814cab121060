import { randomUUID } from 'node:crypto';
import { nowMs } from '../shared/clock';
import type { Letter } from './smtp';

const lines = (...all: string[]) => all.join('\r\n');
const date = () => new Date(nowMs()).toUTCString().replace('GMT', '+0000');

/** What somebody who got an email writes back, or the program that says that they are away (RFC 3834). */
export const replyTo = ({ from, to, subject, messageId }: Letter, text: string, isAway: boolean): string =>
  lines(
    `From: ${to}`,
    `To: ${from}`,
    `Subject: ${isAway ? 'Away until Monday' : `Re: ${subject}`}`,
    `Date: ${date()}`,
    `Message-ID: <${randomUUID()}@brindlepost.example>`,
    `In-Reply-To: ${messageId}`,
    `References: ${messageId}`,
    ...(isAway ? ['Auto-Submitted: auto-replied'] : []),
    'MIME-Version: 1.0',
    'Content-Type: text/plain; charset=utf-8',
    '',
    text,
    '',
  );

/** The report that an email did not arrive (RFC 3464). */
export const bounceOf = ({ from, to, messageId, subject }: Letter): string =>
  lines(
    'From: Mail Delivery <postmaster@brindlepost.example>',
    `To: ${from}`,
    'Subject: Not delivered',
    `Date: ${date()}`,
    `Message-ID: <${randomUUID()}@brindlepost.example>`,
    'Auto-Submitted: auto-replied',
    'MIME-Version: 1.0',
    'Content-Type: multipart/report; report-type=delivery-status; boundary="part"',
    '',
    '--part',
    'Content-Type: text/plain; charset=utf-8',
    '',
    `${to} is not there.`,
    '--part',
    'Content-Type: message/delivery-status',
    '',
    'Reporting-MTA: dns; brindlepost.example',
    '',
    `Final-Recipient: rfc822; ${to}`,
    'Action: failed',
    'Status: 5.1.1',
    '',
    '--part',
    'Content-Type: text/rfc822-headers',
    '',
    `Message-ID: ${messageId}`,
    `Subject: ${subject}`,
    '',
    '--part--',
    '',
  );

import pino from 'pino';

export const log = pino({ level: process.env.AVRIX_LOG ?? 'info', base: null });

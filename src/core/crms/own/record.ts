import { textAt } from '../../capture/pointer';
import { readInstant } from '../../instant';
import { readAmount, type Money } from '../../outcomes';
import type { ReadRecord } from '../contract';
import type { RecordReading } from '../schema';

/** A record as an own CRM's rule reads it, or what it lacks. Times that it does not say are those of its arrival. */
export type OwnRecord = { ok: true; read: ReadRecord } | { ok: false; was: string; fix: string };

/** A decimal number as machines and people write one: "1,249.50", "1249.5". */
const plainNumber = (text: string): string => text.replace(/^[^\d-]+/, '').replace(/,(?=\d{3}(\D|$))/g, '');

/**
 * Reads one record by a business's own rule. Its stages are those that it is at now: the moves are known only as far as
 * records of it arrived before.
 *
 * @param at when (ms) it arrived
 */
export function readOwnRecord(reading: RecordReading, document: unknown, at: number): OwnRecord {
  const text = (pointer: string) => textAt(document, pointer);
  const number = text(reading.number).slice(0, 60);
  if (number === '')
    return {
      ok: false,
      was: `it has no value at ${reading.number}, where the record’s number is read`,
      fix: 'Click on the number in the example again.',
    };
  const currency = text(reading.currency).toUpperCase() || reading.otherwiseCurrency;
  const amounts = reading.amounts.flatMap(({ name, at: pointer }): [string, Money][] => {
    const money = readAmount(plainNumber(text(pointer)), currency);
    return money ? [[name, money]] : [];
  });
  const fields = reading.fields.flatMap(({ name, at: pointer }): [string, string][] => {
    const value = text(pointer);
    return value === '' ? [] : [[name, value]];
  });
  const changedAt = readInstant(text(reading.changedAt)) ?? at;
  const stage = text(reading.stage).slice(0, 80);
  const mail = text(reading.mail);
  return {
    ok: true,
    read: {
      mail,
      telephone: text(reading.telephone),
      companyNumber: '',
      merged: { people: [], records: [] },
      record: {
        deal: number,
        person: (text(reading.person) || mail.toLowerCase() || number).slice(0, 120),
        personName: text(reading.personName).slice(0, 200),
        company: text(reading.company).slice(0, 200),
        madeAt: readInstant(text(reading.madeAt)) ?? changedAt,
        changedAt,
        stage,
        stageChanges: stage === '' ? [] : [{ stage, at: changedAt }],
        fields: Object.fromEntries(fields),
        amounts: Object.fromEntries(amounts),
      },
    },
  };
}

/** The parts that a rule reads, each with its words and what it found in a record; '' where it found nothing. */
export function readParts(reading: RecordReading, document: unknown): { words: string; at: string; value: string }[] {
  const parts: [string, string][] = [
    ['the record’s number', reading.number],
    ['the person’s number', reading.person],
    ['the person’s name', reading.personName],
    ['email', reading.mail],
    ['telephone', reading.telephone],
    ['company', reading.company],
    ['stage', reading.stage],
    ['when it was made', reading.madeAt],
    ['when it changed', reading.changedAt],
    ['currency', reading.currency],
    ...reading.amounts.map(({ name, at }): [string, string] => [`amount ${name}`, at]),
    ...reading.fields.map(({ name, at }): [string, string] => [name, at]),
  ];
  return parts.filter(([, at]) => at !== '').map(([words, at]) => ({ words, at, value: textAt(document, at) }));
}

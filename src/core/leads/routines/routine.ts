import { freshCondition, type SegmentMeans } from '../segments/condition';
import type { SetQuality } from '../quality';

/** What leads are taken by. */
export const takings = ['form', 'stage', 'segment'] as const;
export const waits = ['at_once', 'hours', 'days', 'working_hours', 'working_days'] as const;
export type Wait = (typeof waits)[number];
export const doings = ['mail', 'field', 'stage', 'quality', 'tell_mail', 'tell_webhook'] as const;
export type Doing = (typeof doings)[number];

/** One step: how long after the one before, and what is done. What it does not do keeps its usual value. */
export interface Step {
  /** Its own, by which a run knows what it has done; it stays when the step is moved or changed. */
  id: string;
  wait: Wait;
  amount: number;
  does: Doing;
  /** The email; '' for none. */
  mail: string;
  /** The email of those who sent one form, in place of the one above; '' for none. */
  byForm: { form: string; mail: string }[];
  field: string;
  value: string;
  onlyEmpty: boolean;
  stage: string;
  quality: SetQuality;
  /** Whom it tells: an email address, or an address that takes HTTP. */
  to: string;
  words: string;
}

/** Which leads are taken. */
export interface Takes {
  on: (typeof takings)[number];
  forms: string[];
  stages: string[];
  segment: string;
  /** Those of another segment alone; '' for all. */
  also: string;
  once: 'enquiry' | 'person';
}

/** When a lead is let go. Whoever unsubscribes, is no enquiry or has no record any more always is. */
export interface LetGo {
  reply: boolean;
  /** Also at any later stage. */
  stages: string[];
  answered: 'no' | 'answering' | 'qualified';
}

/** What follows when a lead meets a condition. */
export interface RoutineMeans {
  takes: Takes;
  steps: Step[];
  letGo: LetGo;
}

export const freshStep = (id: string): Step => ({
  id,
  wait: 'at_once',
  amount: 2,
  does: 'mail',
  mail: '',
  byForm: [],
  field: '',
  value: '',
  onlyEmpty: true,
  stage: '',
  quality: 'answering',
  to: '',
  words: '',
});

export const freshRoutine = (stepId: string): RoutineMeans => ({
  takes: { on: 'form', forms: [], stages: [], segment: '', also: '', once: 'enquiry' },
  steps: [freshStep(stepId)],
  letGo: { reply: true, stages: [], answered: 'qualified' },
});

/** What is missing of a step, in words; '' where it is whole. */
export function missingInStep({ does, mail, byForm, field, stage, to }: Step): string {
  const isMissing: Record<Doing, boolean> = {
    mail: mail === '' && !byForm.some((row) => row.mail !== ''),
    field: field === '',
    stage: stage === '',
    quality: false,
    tell_mail: to === '',
    tell_webhook: to === '',
  };
  if (does === 'mail' && byForm.some(({ form }) => form === '')) return 'a form';
  const missing: Record<Doing, string> = {
    mail: 'an email',
    field: 'a field of the CRM',
    stage: 'a stage',
    quality: '',
    tell_mail: 'an email address',
    tell_webhook: 'an address',
  };
  return isMissing[does] ? missing[does] : '';
}

/** What is missing of whom it takes, in words; '' where it is whole. */
export function missingInTakes({ on, stages, segment }: Takes): string {
  if (on === 'stage') return stages.length === 0 ? 'a stage' : '';
  return on === 'segment' && segment === '' ? 'a segment' : '';
}

/** Whom it takes, as a segment means it. Without a form, whoever sent any. */
export function takesMeans({ on, forms, stages, segment, also }: Takes): SegmentMeans {
  const first = {
    form: forms.length > 0 ? { ...freshCondition('form'), values: forms } : freshCondition('way'),
    stage: { ...freshCondition('reached'), values: stages },
    segment: { ...freshCondition('segment'), segment },
  }[on];
  return {
    match: 'all',
    conditions: also === '' ? [first] : [first, { ...freshCondition('segment'), segment: also }],
  };
}

/** The segments that decide whom it takes. */
export const segmentsOfRoutine = ({ takes: { on, segment, also } }: RoutineMeans): string[] =>
  [on === 'segment' ? segment : '', also].filter(Boolean);

/** The emails that it sends. */
export const mailsOfRoutine = ({ steps }: RoutineMeans): string[] =>
  steps.flatMap(({ does, mail, byForm }) => (does === 'mail' ? [mail, ...byForm.map((row) => row.mail)] : []));

/**
 * What comes after the step that was done last; null where nothing does. A routine may have been changed since: where that
 * step is there no more, the one in its place comes next.
 *
 * @param done how many steps were done
 */
export function nextStep(steps: readonly Step[], lastStep: string, done: number): Step | null {
  const at = steps.findIndex(({ id }) => id === lastStep);
  return steps[at >= 0 ? at + 1 : done === 0 ? 0 : done - 1] ?? null;
}

/** The email that a step sends to whoever sent a form; '' for none. */
export const mailFor = ({ mail, byForm }: Step, form: string): string =>
  byForm.find((row) => row.form === form)?.mail ?? mail;

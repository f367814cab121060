import { z } from 'zod';
import { setQualities } from '../quality';
import { findMailFault } from './mail-text';
import { doings, missingInStep, missingInTakes, takings, waits, type Doing } from './routine';

const text = (longest: number) => z.string().trim().max(longest, `must have at most ${longest} characters`);
const id = z.uuid();
const idOrNone = id.or(z.literal(''));
const names = z.array(text(200).min(1)).max(50, 'must be at most 50');
/** Such as `sales@larkmoor.example`. */
const isMail = (given: string): boolean => z.email().safeParse(given).success;
const isAddress = (given: string): boolean => /^https?:\/\/[^\s/]+(\/\S*)?$/.test(given);
const toWhom: Partial<Record<Doing, [isRight: (given: string) => boolean, wanted: string]>> = {
  tell_mail: [isMail, 'must be an email address, such as sales@larkmoor.example'],
  tell_webhook: [isAddress, 'must be an address that begins with https:// or http://'],
};

const stepSchema = z
  .strictObject({
    id,
    wait: z.enum(waits),
    amount: z.number().int().min(1, 'must be 1 to 400').max(400, 'must be 1 to 400'),
    does: z.enum(doings),
    mail: idOrNone,
    byForm: z.array(z.strictObject({ form: text(120), mail: idOrNone })).max(20, 'must be at most 20 forms'),
    field: text(60),
    value: text(500),
    onlyEmpty: z.boolean(),
    stage: text(80),
    quality: z.enum(setQualities),
    to: text(300),
    words: text(500),
  })
  .superRefine((step, context) => {
    const missing = missingInStep(step);
    if (missing) context.addIssue({ code: 'custom', message: `must say ${missing}` });
    const [isRight, wanted] = toWhom[step.does] ?? [() => true, ''];
    if (!missing && !isRight(step.to)) context.addIssue({ code: 'custom', message: wanted });
  });

const takesSchema = z
  .strictObject({
    on: z.enum(takings),
    forms: names,
    stages: names,
    segment: idOrNone,
    also: idOrNone,
    once: z.enum(['enquiry', 'person']),
  })
  .superRefine((takes, context) => {
    const missing = missingInTakes(takes);
    if (missing) context.addIssue({ code: 'custom', message: `must say ${missing}` });
  });

export const routineMeansSchema = z.strictObject({
  takes: takesSchema,
  steps: z.array(stepSchema).min(1, 'must have a step').max(20, 'must have at most 20 steps'),
  letGo: z.strictObject({ reply: z.boolean(), stages: names, answered: z.enum(['no', 'answering', 'qualified']) }),
});

export const routineGivenSchema = z.strictObject({
  /** '' for a new one. */
  id: idOrNone,
  name: text(80).min(1, 'must say what it is called'),
  means: routineMeansSchema,
  /** When it was last changed as whoever saves it knows it; '' for a new one. */
  seen: z.string().max(40),
});
export type RoutineGiven = z.infer<typeof routineGivenSchema>;

/** What is done with a routine: `start` takes leads from now on, with `those` also those that fit already. */
export const routineDoSchema = z.strictObject({
  id,
  what: z.enum(['start', 'pause', 'go_on', 'take', 'pass_over', 'retire', 'use_again']),
  those: z.boolean(),
});
export type RoutineDo = z.infer<typeof routineDoSchema>;

export const routineTakesSchema = z.strictObject({ takes: takesSchema });
export const routineRunsSchema = z.strictObject({ id });
export const routineRunSchema = z.strictObject({ run: id });
export const routineTrySchema = z.strictObject({
  means: routineMeansSchema,
  enquiry: text(200).min(1, 'must name a lead'),
});
/** What somebody knows of an email whose answer was lost. */
export const unsureSchema = z.strictObject({ act: id, arrived: z.boolean() });

const mailText = (longest: number) =>
  z
    .string()
    .max(longest, `must have at most ${longest} characters`)
    .superRefine((given, context) => {
      const fault = findMailFault(given);
      if (fault) context.addIssue({ code: 'custom', message: `${fault.was}. ${fault.fix}` });
    });

export const mailGivenSchema = z.strictObject({
  id: idOrNone,
  name: text(80).min(1, 'must say what it is called'),
  subject: mailText(200).refine((given) => given.trim() !== '', 'must say what it is about'),
  text: mailText(20_000).refine((given) => given.trim() !== '', 'must say something'),
  html: mailText(60_000),
  seen: z.string().max(40),
});
export type MailGiven = z.infer<typeof mailGivenSchema>;
export const mailRetireSchema = z.strictObject({ id, retired: z.boolean() });
export const mailShowSchema = mailGivenSchema.pick({ subject: true, text: true, html: true });

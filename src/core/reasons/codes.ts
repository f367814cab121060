import type { Mark } from '../strands/types';

/**
 * Why something was lost, waits or did not go on, as a code with its operands. The engine speaks in codes; the words
 * are made from them in words.ts.
 */
export type Reason =
  | { code: 'cookies_blocked' }
  | { code: 'not_kept' }
  | { code: 'kept_changed' }
  | { code: 'visit_ended' }
  | { code: 'visit_running' }
  | { code: 'form_no_rule'; form: string }
  | { code: 'form_field_missing'; form: string; field: string }
  | { code: 'form_field_near'; form: string; field: string; near: string }
  | { code: 'form_value_differs'; form: string; field: string }
  /** The platform keeps what people sent for so many days only. */
  | { code: 'gone_there'; platform: string; days: number }
  | { code: 'crm_not_yet' }
  | { code: 'no_crm' }
  | { code: 'crm_never' }
  | { code: 'crm_field_differs'; form: string; sent: string; read: string }
  | { code: 'crm_value_empty'; read: string }
  | { code: 'crm_value_changed'; read: string }
  | { code: 'not_qualified_yet'; stage: string }
  /** Somebody subscribed, and no payment was posted yet. */
  | { code: 'not_paid_yet' }
  | { code: 'disqualified'; stage: string }
  /** Somebody said that what was sent was no enquiry. */
  | { code: 'no_enquiry'; what: string }
  | { code: 'deal_deleted' }
  | { code: 'deal_merged'; deal: string; into: string }
  /** `earlier`: the last stage that the deal reached while the click was young enough, days after it; missing for none. */
  | { code: 'click_too_old'; days: number; limit: number; earlier?: { stage: string; days: number } }
  | { code: 'told_too_late'; days: number; limit: number }
  | { code: 'no_platform_to_tell' }
  | { code: 'no_account'; platform: string }
  | { code: 'account_off'; platform: string; how: 'paused' | 'retired' }
  | { code: 'no_click_in_crm' }
  | { code: 'crm_click_differs' }
  | { code: 'no_worth'; field: string }
  | { code: 'not_due' }
  | { code: 'not_answered'; status: string }
  | { code: 'maybe_taken'; platform: string }
  | { code: 'no_customer'; mark: Mark }
  /** The deal left the outcome's stage before the platform was told. */
  | { code: 'left_stage'; stage: string; leftFor: string }
  | { code: 'no_consent' }
  | { code: 'refused'; platform: string; answer: string }
  | { code: 'not_in_report'; platform: string }
  /** A person holds it in the queue, or took it out. */
  | { code: 'held_by'; by: string }
  /** Of the same person with the same amounts, shortly after another: rule 13. */
  | { code: 'probably_same'; as: string }
  | { code: 'withdrawn_by'; by: string }
  /** It would be told, and is only worked out, since another way of telling tells it. */
  | { code: 'worked_out' }
  /** The platform was asked as a test. */
  | { code: 'tested'; platform: string; answer: string }
  /** No click is known, and nothing else that the platform knows people by. */
  | { code: 'no_person_key'; key: 'mail' | 'telephone' }
  /** The payment was given back before the platform was told. */
  | { code: 'taken_back'; cause: 'refund' | 'chargeback' | 'amount' }
  /** Held as one with others until somebody looks: far more, worth more or older than usual, or the first of its kind. */
  | { code: 'brake'; because: 'count' | 'worth' | 'age' | 'new' }
  /** Why what a platform has is not changed: what it was told with stands there. */
  | { code: 'change_not_taken'; platform: string }
  | { code: 'change_too_late'; platform: string; days: number; limit: number }
  | { code: 'other_currency' }
  | { code: 'changed_back' }
  | { code: 'unexplained' };

export type ReasonCode = Reason['code'];

/** The order in which a lost row takes its one reason. */
export const lossClasses = [
  'no consent',
  'value never arrived',
  'value changed',
  'field or mapping fault',
  'too old',
  'duplicate',
  'refused by the platform',
  'unexplained',
] as const;
export type LossClass = (typeof lossClasses)[number];

const classes: Partial<Record<ReasonCode, LossClass>> = {
  no_consent: 'no consent',
  cookies_blocked: 'value never arrived',
  not_kept: 'value never arrived',
  crm_never: 'value never arrived',
  kept_changed: 'value changed',
  form_value_differs: 'value changed',
  crm_value_changed: 'value changed',
  form_no_rule: 'field or mapping fault',
  form_field_missing: 'field or mapping fault',
  form_field_near: 'field or mapping fault',
  crm_field_differs: 'field or mapping fault',
  crm_value_empty: 'field or mapping fault',
  gone_there: 'too old',
  click_too_old: 'too old',
  probably_same: 'duplicate',
  told_too_late: 'too old',
  refused: 'refused by the platform',
};

/** Lost between the form and the CRM although the visit knows the value: it can be put back into the record. */
export const repairable: readonly ReasonCode[] = ['crm_field_differs', 'crm_value_empty'];

/** The class of loss a reason belongs to. */
export function lossClass(reason: Reason | null): LossClass {
  return (reason && classes[reason.code]) ?? 'unexplained';
}

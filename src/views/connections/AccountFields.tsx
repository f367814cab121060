import { codes } from 'currency-codes';
import { useMemo } from 'react';
import type { AccountName } from '../../core/connections/view';
import type { ChangedAccount } from '../../core/connections/schema';
import { Field } from '../../ui/form/Field';
import type { AppForm } from '../../ui/form/useAppForm';

export const accountSecrets = ['token', 'webhookSecret'] as const;

/** What is asked of an account, new or changed. */
export function AccountFields({
  form,
  does,
  hasToken,
  sendsWebhooks,
  takesFiles,
  isNew,
}: {
  form: AppForm<ChangedAccount>;
  does: AccountName['does'];
  hasToken: boolean;
  sendsWebhooks: boolean;
  takesFiles: boolean;
  isNew: boolean;
}) {
  const zones = useMemo(() => Intl.supportedValuesOf('timeZone').map((value) => ({ value })), []);
  const currencies = useMemo(() => codes().map((value) => ({ value })), []);
  const asIs = isNew ? '' : 'stays as it is';
  return (
    <>
      <div className="grid gap-4 sm:grid-cols-2">
        <Field form={form} name="name" words="What people call it" />
        <Field
          form={form}
          name="endpoint"
          words={takesFiles ? 'Address files are sent to, or a folder such as folder:partner' : 'Address of its API'}
          placeholder="https://api.example"
          isValue
        />
      </div>
      <div className="mt-4 grid gap-4 sm:grid-cols-2">
        <Field
          form={form}
          name="token"
          words={hasToken ? 'Another key' : 'Key it knows you by'}
          as="password"
          isValue
          placeholder={hasToken ? asIs : ''}
          autoComplete="off"
        />
        {sendsWebhooks && (
          <Field
            form={form}
            name="webhookSecret"
            words={isNew ? 'Webhook secret (blank: one is made)' : 'Another webhook secret'}
            as="password"
            isValue
            placeholder={asIs}
            autoComplete="off"
          />
        )}
      </div>
      {does === 'platform' && (
        <div className="mt-4 grid gap-4 sm:grid-cols-2">
          <Field form={form} name="timeZone" words="Time zone of its days" choices={zones} isValue />
          <Field form={form} name="currency" words="Its currency" choices={currencies} isValue />
        </div>
      )}
    </>
  );
}

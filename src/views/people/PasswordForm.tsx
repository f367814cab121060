import { useState } from 'react';
import { ownPasswordSchema } from '../../core/people/schema';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { useAppForm } from '../../ui/form/useAppForm';
import { Live } from '../../ui/live/Live';
import { sendJson } from '../../ui/text/read';

const passwords = ['before', 'password'] as const;

/** Changes one's own password; other places where one is signed in are signed out. */
export function PasswordForm() {
  return (
    <Live>
      <Change />
    </Live>
  );
}

function Change() {
  const [isDone, setDone] = useState(false);
  const form = useAppForm({
    name: 'own password',
    schema: ownPasswordSchema,
    isStored: false,
    secrets: passwords,
    values: { before: '', password: '' },
    async save(wanted) {
      await sendJson('/api/you/password', wanted);
      setDone(true);
    },
  });
  return (
    <form onSubmit={form.onSubmit} className="sheet p-5" aria-label="Your password" noValidate>
      <h2 className="text-base">Your password</h2>
      <div className="mt-3 grid gap-4 sm:grid-cols-2">
        <Field
          form={form}
          name="before"
          words="The one you sign in with now"
          as="password"
          autoComplete="current-password"
        />
        <Field
          form={form}
          name="password"
          words="The new one, 12 characters or more"
          as="password"
          autoComplete="new-password"
        />
      </div>
      <button className="button button-strong mt-4" disabled={form.isSaving}>
        Change password
      </button>
      {isDone && (
        <p role="status" className="text-success mt-3">
          It is changed. Other places where you were signed in are signed out.
        </p>
      )}
      <Problem text={form.problem} />
    </form>
  );
}

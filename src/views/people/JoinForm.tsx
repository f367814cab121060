import { joinSchema } from '../../core/people/schema';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { useAppForm } from '../../ui/form/useAppForm';
import { Live } from '../../ui/live/Live';
import { sendJson } from '../../ui/text/read';

const joinSecrets = ['password'] as const;

/** Somebody new takes an invitation up: a name and a password of their own. */
export function JoinForm(props: { token: string; mail: string }) {
  return (
    <Live>
      <Join {...props} />
    </Live>
  );
}

function Join({ token, mail }: { token: string; mail: string }) {
  const form = useAppForm({
    name: 'join',
    schema: joinSchema,
    isStored: false,
    secrets: joinSecrets,
    values: { name: '', password: '' },
    async save(wanted) {
      const { business } = await sendJson<{ business: string }>(`/api/join/${token}`, wanted);
      window.location.assign(`/sign-in?${new URLSearchParams({ mail, to: `/b/${business}` })}`);
    },
  });
  return (
    <form onSubmit={form.onSubmit} className="mt-5" noValidate>
      <Field form={form} name="name" words="Your name" autoComplete="name" />
      <div className="mt-4">
        <Field
          form={form}
          name="password"
          words="A password of your own, 12 characters or more"
          as="password"
          autoComplete="new-password"
        />
      </div>
      <button className="button button-strong mt-6" disabled={form.isSaving}>
        Join
      </button>
      <Problem text={form.problem} />
    </form>
  );
}

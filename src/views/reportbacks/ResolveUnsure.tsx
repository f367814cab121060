import { useMutation } from '@tanstack/react-query';
import { sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';

interface Props {
  business: string;
  reportBack: string;
  platform: string;
  onDecided(): void;
}

/** Ends the doubt about a report-back that is unsure, by what a person sees in the platform. */
export function ResolveUnsure({ business, reportBack, platform, onDecided }: Props) {
  const say = useMutation({
    mutationFn: (found: 'taken' | 'not taken') =>
      sendJson(`/api/b/${business}/report-backs/${reportBack}/found`, { found }),
    onSuccess: onDecided,
  });
  return (
    <div className="border-base-300 mt-4 border-t pt-3">
      <p>Is it in {platform}?</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <button type="button" className="button" disabled={say.isPending} onClick={() => say.mutate('taken')}>
          Yes
        </button>
        <button type="button" className="button" disabled={say.isPending} onClick={() => say.mutate('not taken')}>
          No, tell it again
        </button>
      </div>
      {say.error && (
        <p role="alert" className="text-error mt-2 text-[13px]">
          <Words text={say.error.message} />
        </p>
      )}
    </div>
  );
}

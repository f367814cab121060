import type { CaptureEffectView } from '../../core/capture/station-view';
import { count, counted } from '../../core/strands';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { Time } from '../../ui/text/Time';

/** What a rule as it stands on the screen would have done to the enquiries that were recorded. */
export function CaptureEffect({
  effect,
  weeks,
  timeZone,
  onField,
}: {
  effect: CaptureEffectView | undefined;
  weeks: number;
  timeZone: string;
  /** Takes a field of nearly the right name into the rule. */
  onField?: (field: string) => void;
}) {
  if (!effect) return <EffectSheet heading={null} />;
  const { enquiries, click, touch, fill, recordedSince } = effect;
  if (!recordedSince || enquiries === 0)
    return (
      <EffectSheet
        heading={recordedSince ? `No enquiry in ${weeks} weeks` : 'Nothing is recorded yet'}
        under="The first form that is sent shows what this rule does."
      />
    );
  return (
    <EffectSheet
      heading={
        fill
          ? `Would have filled ${count(fill.filled)} of ${counted(fill.sent, 'form', 'forms')} sent`
          : `Of ${counted(enquiries, 'enquiry', 'enquiries')} in ${weeks} weeks`
      }
    >
      {fill ? (
        <>
          <p className="text-quiet mt-1 text-[13px]">
            In {weeks} weeks. {fill.noValue > 0 && `${counted(fill.noValue, 'visit', 'visits')} had nothing to read. `}
            {fill.notFound > 0 && `${counted(fill.notFound, 'form', 'forms')} had no such field.`}
          </p>
          {fill.near.map(({ form, field, times }) => (
            <p key={form + field} className="mt-2">
              Just missed {count(times)}: the form <code className="value">{form}</code> has{' '}
              <code className="value">{field}</code>.{' '}
              {onField && (
                <button type="button" className="quiet-link cursor-pointer" onClick={() => onField(field)}>
                  Take it in
                </button>
              )}
            </p>
          ))}
          <ul className="mt-2">
            {fill.last.map(({ at, form, value }) => (
              <li key={at + form} className="border-base-300 border-b py-1.5 last:border-0">
                <code className="value block truncate">{value}</code>
                <span className="text-quiet text-[12.5px]">
                  <Time iso={at} timeZone={timeZone} />, {form}
                </span>
              </li>
            ))}
          </ul>
        </>
      ) : (
        <dl className="mt-2 grid grid-cols-[1fr_auto_auto] gap-x-4 gap-y-1.5">
          <dt className="text-quiet">still knew</dt>
          <dd className="text-quiet text-right">live</dd>
          <dd className="text-quiet text-right">as written</dd>
          {(
            [
              ['their click ID', click],
              ['any touch', touch],
            ] as const
          ).map(([words, { live, after }]) => (
            <div key={words} className="contents">
              <dt>{words}</dt>
              <dd className="text-right tabular-nums">{count(live)}</dd>
              <dd className={`text-right font-semibold tabular-nums ${after < live ? 'text-error' : ''}`}>
                {count(after)}
              </dd>
            </div>
          ))}
        </dl>
      )}
    </EffectSheet>
  );
}

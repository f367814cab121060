import { cutLink, type LinkPlan } from '../../core/links';
import { underline } from './underlines';

/** The finished link, the largest thing on the screen; each part has a line of its own shape, the same as at its field. */
export function FinishedLink({ link, plan, tags }: { link: string; plan: LinkPlan; tags: Record<string, string> }) {
  const order = plan.tags.map(({ tag }) => tag);
  return (
    <p className="value text-[19px] leading-[1.75] [overflow-wrap:anywhere]" data-testid="link">
      {cutLink(link, tags, plan.names).map(({ text, tag }, index) => (
        <span
          key={index}
          className={
            tag === null
              ? index === 0
                ? underline(0)
                : 'text-quiet'
              : `font-bold ${underline(order.indexOf(tag) + 1)}`
          }
        >
          {text}
        </span>
      ))}
    </p>
  );
}

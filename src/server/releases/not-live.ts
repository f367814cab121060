import type { NotLiveView } from '../../core/releases/view';
import type { WritesStation } from '../leads/writes-station';
import type { Membership } from '../people/people';
import type { Draft } from './draft';

/** What is not live, with what is wrong with it: by the rules themselves, and by what they would do to what was recorded. */
export const makeNotLive = (draft: Draft, writes: Pick<WritesStation, 'findings'>) => ({
  async view(membership: Membership): Promise<NotLiveView> {
    const [view, cut] = await Promise.all([draft.view(membership), writes.findings(membership)]);
    return { ...view, findings: [...view.findings, ...cut] };
  },
});

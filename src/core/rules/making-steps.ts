import type { MakingSteps } from '../plan/schema';
import { defineRule } from './define';
import { inOne } from './place';
import { partsOf } from './says';

const { told } = partsOf<MakingSteps>();

/** The business's own steps of making a campaign. */
export const makingSteps = defineRule<MakingSteps>({
  station: 'Plan',
  at: inOne(['plan', 'making']),
  says: [
    'A campaign is made so: ',
    told(
      ({ steps }) =>
        steps.map((step, at) => `${at + 1}. ${step.replace(/\.$/, '')}`).join('; ') || 'nothing is written down',
    ),
    '.',
  ],
});

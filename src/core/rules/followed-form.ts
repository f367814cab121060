import type { CaptureRules } from '../capture/schema';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

type FollowedForm = CaptureRules['forms'][number];
const { choice, value, words } = partsOf<FollowedForm>();

/** A form each sending of which is an enquiry, or a sign-up for a subscription. */
export const followedForm = defineRule<FollowedForm>({
  station: 'Capture',
  at: inList(['capture', 'forms'], ({ name }) => name),
  says: [
    'Each sending of the form ',
    value('name', 'Form', 'a form', { isName: true, offers: 'forms' }),
    ' is ',
    choice('counts', 'What each sending is', [
      ['enquiry', 'an enquiry'],
      ['sign_up', 'a sign-up for a subscription'],
    ]),
    ', called ',
    words('words', 'What people call it', 'its name'),
    '.',
  ],
});

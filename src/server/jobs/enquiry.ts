import type { makeFollowEnquiries } from '../leads/enquiry';
import { inBatches } from './handlers';
import { defineJob } from './job';

/** Follows an enquiry to its outcome and what is to be told of it. */
export const enquiryJob = (follow: ReturnType<typeof makeFollowEnquiries>) =>
  defineJob({ kind: 'enquiry', claim: 300, lanes: 2, run: inBatches(follow) });

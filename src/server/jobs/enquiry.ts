import type { makeFollowEnquiry } from '../leads/enquiry';
import { oneByOne } from './handlers';
import { defineJob } from './job';

/** Follows an enquiry to its outcome and what is to be told of it. */
export const enquiryJob = (follow: ReturnType<typeof makeFollowEnquiry>) =>
  defineJob({ kind: 'enquiry', claim: 20, lanes: 2, run: oneByOne(follow) });

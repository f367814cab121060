/** What is usual where a business has written no steps of its own. */
export const usualSteps = [
  'Write the campaign into the register, or pull it from the CRM.',
  'Pick a tag set and make its links: here, before anything is published.',
  'Check the pages they lead to.',
  'Put them into the ad, the letter or the print.',
  'Look at what arrives, on plan and off.',
];

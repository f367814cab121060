/**
 * The two fleet forms. The second one names the click's field differently, as its own developer typed it, unless the
 * website is to have no faults.
 */
export const formsOf = (faults: boolean) => ({
  'test-ride': {
    path: '/fleet',
    heading: 'Ask for a test ride',
    under: 'We bring a bike to your door, for a morning of your own deliveries.',
    button: 'Ask for a test ride',
    hidden: ['click_id', 'source', 'medium', 'campaign', 'content', 'first_referrer', 'placement', 'avx_lead'],
  },
  'call-back': {
    path: '/fleet/call-back',
    heading: 'Ask for a call back',
    under: 'Twenty minutes with someone who rides one. Weekdays, eight to six.',
    button: 'Call me back',
    hidden: [
      faults ? 'click_ref' : 'click_id',
      'source',
      'medium',
      'campaign',
      'content',
      'first_referrer',
      'avx_lead',
    ],
  },
});
export type Forms = ReturnType<typeof formsOf>;
export type FormName = keyof Forms;

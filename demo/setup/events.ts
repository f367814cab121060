const cue = (kind: string, text = '', more: object = {}) => ({
  kind,
  part: 'path',
  test: 'equals',
  text,
  amount: 1,
  ...more,
});
const event = (name: string, words: string, cues: object[], onceFor: string, reads: string[] = []) => ({
  name,
  words,
  cues,
  conditions: [],
  reads,
  onceFor,
  onceReading: '',
});
const reading = (id: string, words: string, from: string, name: string, more: object = {}) => ({
  id,
  words,
  from,
  name,
  attribute: '',
  as: 'text',
  unit: '',
  swap: '',
  ...more,
});

const wire = (
  event: string,
  named: [text: string, reading: string][],
  fields: Record<string, string>,
  more: object = {},
) => ({
  event,
  account: 'meterhall',
  kind: 'meterhall',
  by: 'server',
  purpose: 'measurement',
  ...more,
  named: named.map(([text, reading]) => ({ text, reading })),
  fields: Object.entries(fields).map(([name, reading]) => ({ name, reading })),
});

/**
 * What counts on Larkmoor's pages, what is read with it, and where it is told.
 * @param told whether Meterhall and Tessaloop are connected
 */
export const larkmoorEvents = (told: { meterhall: boolean; tessaloop: boolean }) => ({
  presses: true,
  readings: [
    reading('bikes', 'Bikes asked for', 'field', 'bikes', { as: 'number', unit: 'bikes' }),
    reading('order_total', 'Order total', 'page', '/order/total', { as: 'number', unit: 'GBP' }),
    reading('dealer', 'Dealer', 'pressed', '', { attribute: 'data-dealer' }),
  ],
  events: [
    event(
      'enquiry_sent',
      'Test ride or call back asked for',
      [cue('sends', 'test-ride'), cue('sends', 'call-back')],
      'lead_token',
      ['bikes', 'last_campaign'],
    ),
    event('order_paid', 'Shop order paid', [cue('orders')], 'order', ['order_number', 'order_total']),
    event('booking_opened', 'Calendar opened', [cue('leaves_for', 'bellhour.localhost')], 'visit', ['path']),
    event('call_started', 'Telephone number pressed', [cue('leaves_for', 'tel:')], 'visit', ['path']),
    event('dealer_link_followed', 'Dealer’s website opened', [cue('presses', '[data-dealer]')], 'each_time', [
      'dealer',
    ]),
    event('guide_taken', 'Loading guide taken', [cue('arrives', '/guide/thanks')], 'visit'),
  ],
  wires: [
    ...(told.meterhall
      ? [
          wire(
            'enquiry_sent',
            [
              ['fleet/ask/', ''],
              ['', 'form'],
            ],
            { bikes: 'bikes', campaign: 'last_campaign' },
          ),
          wire('order_paid', [['shop/paid', '']], { total: 'order_total' }),
          wire(
            'dealer_link_followed',
            [
              ['dealer/', ''],
              ['', 'dealer'],
            ],
            {},
          ),
        ]
      : []),
    ...(told.tessaloop
      ? [
          wire(
            'booking_opened',
            [['calendar opened', '']],
            {},
            { account: 'tessaloop', kind: 'tessaloop', by: 'both', purpose: 'advertising' },
          ),
        ]
      : []),
  ],
});

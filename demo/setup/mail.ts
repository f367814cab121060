const id = (n: number) => `0b1a7e00-0000-4000-8000-${String(n).padStart(12, '0')}`;
const [ride, callBack, carries] = [id(1), id(2), id(3)];

const lines = (...all: string[]) => all.join('\n');

/** Emails of Larkmoor's, and the routine that sends them. */
const mails = [
  {
    id: ride,
    name: 'Your test ride',
    subject: 'Your test ride with {{ business }}',
    text: lines(
      'Hello {{ first_name }},',
      '',
      'thank you for asking for a test ride on {{ enquired }}. We bring the bike to you, loaded as you would load it, and it takes half an hour.',
      '',
      'Does any morning next week suit {{ company }}? Just write back.',
      '',
      'Maud at Larkmoor',
    ),
  },
  {
    id: callBack,
    name: 'We call you back',
    subject: 'We call you back, {{ first_name }}',
    text: lines(
      'Hello {{ first_name }},',
      '',
      'we have your number and call within one working day. If another number is better, write back with it.',
      '',
      'Declan at Larkmoor',
    ),
  },
  {
    id: carries,
    name: 'Which bike carries what',
    subject: 'Which bike carries what',
    text: lines(
      'Hello {{ first_name }},',
      '',
      'bakeries ask us most often how many crates fit. Here is the loading guide: https://larkmoor.example/guide',
      '',
      'Maud at Larkmoor',
    ),
  },
];

const step = (n: number, given: object) => ({
  id: id(n),
  wait: 'at_once',
  amount: 2,
  does: 'mail',
  mail: '',
  byForm: [],
  field: '',
  value: '',
  onlyEmpty: true,
  stage: '',
  quality: 'answering',
  to: '',
  words: '',
  ...given,
});

const routines = [
  {
    name: 'After a fleet enquiry',
    means: {
      takes: { on: 'form', forms: ['test-ride', 'call-back'], stages: [], segment: '', also: '', once: 'enquiry' },
      steps: [
        step(11, { mail: ride, byForm: [{ form: 'call-back', mail: callBack }] }),
        step(12, {
          wait: 'working_days',
          amount: 2,
          does: 'tell_mail',
          to: 'maud@larkmoor.example',
          words: 'Nobody has spoken with them yet',
        }),
        step(13, { wait: 'working_days', amount: 3, mail: carries }),
      ],
      letGo: { reply: true, stages: ['Spoken'], answered: 'answering' },
    },
  },
];

/** How Larkmoor writes to people: by Brindlepost, which passes replies on. @param smtp where Brindlepost takes emails */
export const larkmoorMail = (smtp: { host: string; port: number }, key: (name: string) => string) => ({
  settings: {
    ...smtp,
    security: 'none',
    user: 'larkmoor',
    password: key('brindlepost password'),
    fromName: 'Larkmoor Cargo Bikes',
    fromAddress: 'hello@larkmoor.example',
    replyTo: '',
    perMinute: 120,
  },
  repliesSecret: key('brindlepost replies secret'),
  mails,
  routines,
});

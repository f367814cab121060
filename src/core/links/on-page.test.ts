import { describe, expect, it } from 'vitest';
import { content } from '../rehearsal/rehearsal.fixture';
import { lookOver } from './on-page';
import { offersFrom } from './take-over';

const page = 'http://larkmoor.localhost/care';
const source = `<!doctype html><title>Care</title>
<script src="http://t.larkmoor.localhost/b/larkmoor.js"></script>
<script src="https://counts.example/c.js?id=7"></script>
<script>
  function tally(what) { alert('hello'); }
  document.dispatchEvent(new CustomEvent('avrix:tell', { detail: { event: 'care_started', plan: 'x' } }));
</script>
<!-- <a onclick="tally('commented out')">none</a> -->
<a id="ring" href="tel:01632" onclick="tally('phone-care'); alert('thanks')">Ring us</a>
<a href="https://maps.example/x?y=1" data-event="Map opened">Find us</a>
<button onclick="window.open('https://x.example')">Open</button>
<form name="call-back" onsubmit="tally('call back', 1)">
  <input type="hidden" name="click_ref"><input type="HIDDEN" name="avx_lead"><input name="mail">
  <input type="hidden" name="session"><button>Send</button>
</form>`;
const found = lookOver(source, page, (host) => host.endsWith('larkmoor.localhost'));

describe('what a page does already', () => {
  it('is read from its source: scripts of others, what handlers tell them, hidden fields', () => {
    expect(found.scripts).toEqual(['counts.example']);
    expect(found.events.map(({ by, name, form }) => [by, name, form])).toEqual([
      ['avrix:tell', 'care_started', ''],
      ['tally', 'phone-care', ''],
      ['data-event', 'Map opened', ''],
      ['tally', 'call back', 'call-back'],
    ]);
    expect(found.events[1]!.press).toMatchObject({ tag: 'a', id: 'ring', link: 'tel:01632', text: 'Ring us' });
    expect(found.hiddenFields.map(({ field }) => field)).toEqual(['click_ref', 'avx_lead', 'session']);
  });

  it('is offered as draft rules, by the cue that lasts', () => {
    const offers = offersFrom(found, page, content);
    expect(offers.map(({ words, change }) => [words, change?.kind ?? ''])).toEqual([
      ['Tells `avrix:tell` of `care_started`.', 'event'],
      ['Tells `tally` of `phone-care`.', 'event'],
      ['Tells `data-event` of `Map opened`.', 'event'],
      ['Tells `tally` of `call back`.', 'event'],
      ['The form `call-back` has the hidden field `click_ref`.', 'fill'],
      ['Loads a script from `counts.example`.', ''],
    ]);
    expect(offers[1]!.change).toMatchObject({
      id: 'phone_care',
      value: { cues: [{ kind: 'presses', text: '#ring' }] },
    });
    expect(offers[3]!.change).toMatchObject({
      id: 'call_back',
      value: { cues: [{ kind: 'sends', text: 'call-back' }] },
    });
    expect(offers[4]!.change).toMatchObject({ value: { reading: 'click_id', forms: ['call-back'] } });
  });

  it('is not offered where a rule does it', () => {
    const done = { ...found, events: [{ by: 'x', name: 'Enquiry sent', press: null, form: 'test-ride' }], scripts: [] };
    expect(offersFrom({ ...done, hiddenFields: [{ form: 'any', field: 'campaign' }] }, page, content)).toEqual([]);
  });

  it('is found however deep a page is nested', () => {
    const deep = `${'<div>'.repeat(50_000)}<a onclick="tally('deep')">x</a><form>${'<b>'.repeat(50_000)}<input type=hidden name=a>`;
    const { events, hiddenFields } = lookOver(deep, page, () => true);
    expect([events.map(({ name }) => name), hiddenFields]).toEqual([['deep'], [{ form: '', field: 'a' }]]);
  });

  it('is found in any page, however it is broken', () => {
    for (const text of ['', '<', '<form><input type=hidden name=a', '<a onclick="f(\'x">', '<script>'.repeat(50)])
      expect(lookOver(text, page, () => true).scripts).toEqual([]);
  });
});

import { defineTable, text, time, uuid } from '../../db/columns';

/**
 * What was erased, by a keyed hash: `deal` a record of the CRM, `token` a lead token, `call` a telephone system's call, `visitor`
 * a browser. What comes again under one of them is left out.
 */
export const erasures = defineTable('erasures', ['businessId', 'kind', 'hash'], {
  businessId: uuid(),
  kind: text<'deal' | 'token' | 'call' | 'visitor'>(),
  hash: text(),
  at: time(),
});

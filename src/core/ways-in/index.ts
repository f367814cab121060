import type { WayInKind } from '../strands/types';
import { call } from './call';
import { conversion } from './conversion';
import type { WayIn } from './contract';
import { form } from './form';
import { imported } from './import';
import { leadForm } from './lead-form';
import { order } from './order';
import { subscription } from './subscription';

export type { WayIn } from './contract';

/** Whether people come in by it without coming to the website: its line begins elsewhere, without clicks and landings. */
export const beginsElsewhere = ({ hops, own }: WayIn): boolean => hops[0] === own;

/** Every way in there is, by its kind; a further one is a file and a line here. */
export const waysIn: Record<WayInKind, WayIn> = {
  form,
  call,
  lead_form: leadForm,
  import: imported,
  order,
  subscription,
  conversion,
};

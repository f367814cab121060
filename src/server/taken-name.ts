import { fieldsWrong } from '../core/errors';

/** @throws AVX_FIELD_WRONG where another one of the kind has the name, in whatever letter case */
export function refuseTakenName(
  others: readonly { id: string; name: string }[],
  given: { id: string; name: string },
  what: string,
): void {
  const taken = others.some(({ id, name }) => id !== given.id && name.toLowerCase() === given.name.toLowerCase());
  if (taken)
    throw fieldsWrong([
      { field: 'name', was: `there is ${what} “${given.name}” already`, fix: 'Give it another name.' },
    ]);
}

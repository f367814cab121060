import type { CostView } from '../../core/results/cost-view';

/** What costs can be of, as options: accounts first, then sources that have none. */
export function CostPlaces({ accounts }: Pick<CostView, 'accounts'>) {
  const options = (isSource: boolean) =>
    accounts
      .filter((one) => one.isSource === isSource)
      .map(({ key, name }) => (
        <option key={key} value={key}>
          {name}
        </option>
      ));
  return (
    <>
      {options(false)}
      {accounts.some(({ isSource }) => isSource) && (
        <optgroup label="Sources without an account">{options(true)}</optgroup>
      )}
    </>
  );
}

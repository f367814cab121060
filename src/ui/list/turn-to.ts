/** Opens another page of a list whose page is in the address. */
export function turnTo(query: URLSearchParams, page: number): void {
  const to = new URLSearchParams(query);
  to.set('page', String(page));
  location.assign(`?${to}`);
}

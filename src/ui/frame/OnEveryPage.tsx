import { useEffect } from 'react';
import { FindAnything } from '../find/FindAnything';
import { Dock } from '../rehearsal/Dock';
import { Keys } from './Keys';

/** What is on every page of a business beside what the page is for. Once it takes keys it says so, as the page does. */
export function OnEveryPage({ business }: { business: string }) {
  // Runs after the effects of all that is inside.
  useEffect(() => {
    document.documentElement.dataset.keys = 'yes';
  }, []);
  return (
    <>
      <Dock business={business} />
      <FindAnything business={business} />
      <Keys />
    </>
  );
}

/// <reference types="astro/client" />

declare namespace App {
  interface Locals {
    /** Every service of the process; handed in by the server, so that it exists once. */
    services: import('./server/services').Services;
    /** Where the request came from. */
    address: string;
    /** Resolves once what was answered so far has gone out; Astro itself does not wait for a slow reader. */
    drained: () => Promise<void>;
    person: import('./server/people/people').SignedIn | null;
    /** The businesses the person has a role in. */
    memberships: import('./server/people/people').Membership[];
    /** The business of the address, set on every page and endpoint under it. */
    membership: import('./server/people/people').Membership;
  }
}

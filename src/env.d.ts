/// <reference types="astro/client" />

declare namespace App {
  interface Locals {
    /** Every service of the process; handed in by the server, so that it exists once. */
    services: import('./server/services').Services;
    /** Where the request came from. */
    address: string;
    person: import('./server/people/people').SignedIn | null;
    /** The businesses the person has a role in. */
    memberships: import('./server/people/people').Membership[];
    /** The business of the address, set on every page and endpoint under it. */
    membership: import('./server/people/people').Membership;
  }
}

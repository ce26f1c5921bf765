import type { Container } from '$lib/server/container.ts';
import type { Person } from '$lib/server/store/people.ts';

declare global {
  namespace App {
    interface Locals {
      app: Container;
      /** Who is signed in; null on the public pages. */
      person: Person | null;
      /** With what a page answers that says no in its own words; absent: with 200. */
      status?: number;
    }
    interface Error {
      message: string;
      code?: string;
    }
  }
}

export {};

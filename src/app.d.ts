import type { Container } from '$lib/server/container.ts';
import type { Person } from '$lib/server/store/people.ts';

declare global {
  namespace App {
    interface Locals {
      app: Container;
      /** Who is signed in; null on the public pages. */
      person: Person | null;
    }
    interface Error {
      message: string;
      code?: string;
    }
  }
}

export {};

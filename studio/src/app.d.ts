import type { Principal } from '$lib/server/principal';
import type { Person } from '$lib/shared/types';

declare global {
  namespace App {
    interface Locals {
      /** Who asks. */
      who: Principal;
      /** The same where it is a person who has signed in. */
      person: Person | null;
    }
    interface Error {
      message: string;
      code?: string;
    }
  }
}

export {};

import type { Person } from '$lib/shared/types';

declare global {
  namespace App {
    interface Locals {
      person: Person | null;
    }
    interface Error {
      message: string;
      code?: string;
    }
  }
}

export {};

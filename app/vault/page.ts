import type { Route } from './+types/vault';

/** What the page of a case's vault is given. */
export type VaultPage = Route.ComponentProps['loaderData'];

import type { AgreementWay } from '../../core/options';

/** How the customer says it, as one chooses it. */
export const waySays: Readonly<Record<AgreementWay, string>> = {
  signature: 'Signs here',
  phone: 'On the phone',
  message: 'By message',
  inPerson: 'Said it here, unsigned',
};

import { ComingPlace } from './ComingPlace';

export const meta = () => [{ title: 'Practice · Bloodstone' }];
export const handle = { place: () => ({ title: 'Practice' }) };

export default function Practice() {
  return <ComingPlace title="Practice" say="A simulated vehicle with a hidden fault, to practice on. It comes in a later version." />;
}

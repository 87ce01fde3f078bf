import { ComingPlace } from './ComingPlace';

export const meta = () => [{ title: 'Bench · Bloodstone' }];
export const handle = { place: () => ({ title: 'Bench' }) };

export default function Bench() {
  return (
    <ComingPlace
      title="Bench"
      say="The instruments: lamp, resistor key, coil, burst, battery, copy check. They come with the next versions. Until then a measured value is typed where a test or a run asks for it."
    />
  );
}

import { ComingPlace } from './ComingPlace';

export const meta = () => [{ title: 'Shop · Bloodstone' }];
export const handle = { place: () => ({ title: 'Shop' }) };

export default function Shop() {
  return (
    <ComingPlace
      title="Shop"
      say="People, rights, bays, equipment and prices of the shop. They come with the next version. Until then every action is booked to one fixed person."
    />
  );
}

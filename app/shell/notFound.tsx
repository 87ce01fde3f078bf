import { notThere } from '../respond.server';

export function loader() {
  notThere(
    'There is no such page',
    'The address names no page of Bloodstone. It may have been cut off when it was copied. Look for the case with find, or begin at the Floor.',
  );
}

export default function NotFound() {
  return null;
}

import { notThere } from '../respond.server';

export function loader() {
  notThere('Page not found', 'This address is not a page of Bloodstone. It may not have been copied whole. Use Find, or start at the Floor.');
}

export default function NotFound() {
  return null;
}

import { NavLink, useRouteLoaderData } from 'react-router';
import type { loader } from '../shell/shell';
import styles from './shop.module.css';

/** The rooms of the shop place that this person may enter. */
export function ShopNav() {
  const shell = useRouteLoaderData<typeof loader>('shell/shell');
  const rooms = [
    { to: '/shop', name: 'Shop', open: true },
    { to: '/shop/meters', name: 'Meters and drawer', open: true },
    { to: '/shop/me', name: 'My account', open: true },
    { to: '/shop/people', name: 'People', open: shell?.rooms.people },
    { to: '/shop/devices', name: 'Devices', open: shell?.rooms.devices },
    { to: '/shop/audit', name: 'Audit log', open: shell?.rooms.audit },
  ];
  return (
    <nav className={styles.tabs} aria-label="Shop">
      {rooms
        .filter((r) => r.open)
        .map(({ to, name }) => (
          <NavLink key={to} to={to} end>
            {name}
          </NavLink>
        ))}
    </nav>
  );
}

import { NavLink, useRouteLoaderData } from 'react-router';
import styles from './shop.module.css';

/** Which pages of the shop a person may see, as the frame around every page knows. */
export interface ShopRooms {
  people: boolean;
  devices: boolean;
  addresses: boolean;
  audit: boolean;
  vault: boolean;
  backups: boolean;
}

/** The rooms of the shop place that this person may enter. */
export function ShopNav() {
  const shell = useRouteLoaderData<{ rooms: ShopRooms }>('shell/shell');
  const rooms = [
    { to: '/shop', name: 'Shop', open: true },
    { to: '/shop/prices', name: 'Prices', open: true },
    { to: '/shop/learned', name: 'What we learned', open: true },
    { to: '/shop/meters', name: 'Meters and drawer', open: true },
    { to: '/shop/me', name: 'My account', open: true },
    { to: '/shop/people', name: 'People', open: shell?.rooms.people },
    { to: '/shop/devices', name: 'Devices', open: shell?.rooms.devices },
    { to: '/shop/addresses', name: 'Screens and calendars', open: shell?.rooms.addresses },
    { to: '/shop/vault', name: 'Vault', open: shell?.rooms.vault },
    { to: '/shop/backups', name: 'Backups', open: shell?.rooms.backups },
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

import type { ReactNode } from 'react';
import type { Shop } from '../../server/shop/shop';
import styles from './letterhead.module.css';
import { Mark } from './Mark';

export interface ShopOnPaper extends Pick<Shop, 'name' | 'address' | 'phone'> {
  picture: { width: number; height: number } | null;
}

/** Head of a paper: what it is, and whose. Where the shop has no picture, our mark stands there. */
export function Letterhead({ shop, children }: { shop: ShopOnPaper; children: ReactNode }) {
  return (
    <header className={styles.head}>
      {shop.picture ? (
        <img src="/shop/picture" alt={shop.name} width={shop.picture.width} height={shop.picture.height} className={styles.picture} />
      ) : (
        <Mark size={44} />
      )}
      <div className={styles.what}>{children}</div>
      <address className={styles.shop}>
        <b>{shop.name}</b>
        {shop.address && <span>{shop.address}</span>}
        {shop.phone && <span>{shop.phone}</span>}
      </address>
    </header>
  );
}

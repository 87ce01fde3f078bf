import type { Region, Slot } from '../../core/memory';
import styles from './memory.module.css';

const whatWords: Record<Region['is'], string> = {
  slot: 'slot',
  mirror: 'copy',
  checksum: 'checksum',
  counter: 'counter',
  secret: 'secret',
  other: 'other',
  unnamed: 'no name',
};

export const stateWords: Record<Slot['state'], string> = { used: 'used', empty: 'empty', disabled: 'disabled', unclear: 'unclear' };

const address = (at: number): string => at.toString(16).toUpperCase().padStart(4, '0');

/**
 * What stands where in a memory, in order. The blocks are not to scale: a slot of sixteen bytes in a memory of a megabyte must still be seen.
 * @param base address of the first byte
 * @param slots what was read, if anything was
 */
export function MemoryMap({
  regions,
  base,
  slots,
  marked,
}: {
  regions: readonly Region[];
  base: number;
  slots?: readonly Slot[];
  marked?: number | null;
}) {
  return (
    <ol className={styles.map} aria-label="Map of the memory">
      {regions.map((r) => {
        const slot = r.slot === undefined ? undefined : slots?.find((s) => s.slot === r.slot);
        return (
          <li
            key={r.at}
            data-is={r.is}
            data-state={slot?.state}
            data-marked={r.slot !== undefined && r.slot === marked ? '' : undefined}
            style={{ flexGrow: Math.sqrt(r.bytes) }}
          >
            <span className="mono">{address(base + r.at)}</span>
            <b>{r.is === 'slot' ? `Slot ${r.slot}` : r.title || 'No name'}</b>
            <small>
              {slot ? stateWords[slot.state] : r.is === 'unnamed' || r.is === 'slot' ? '' : whatWords[r.is]} {r.bytes}{' '}
              {r.bytes === 1 ? 'byte' : 'bytes'}
            </small>
          </li>
        );
      })}
    </ol>
  );
}

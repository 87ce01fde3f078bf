import { useEffect, useRef, useState } from 'react';
import {
  type Contact,
  type Layout,
  type MemoryImage,
  type MemoryLook,
  sampleMemory,
  simulatedRead,
  simulatedWrite,
  type SlotAct,
  type SlotWritten,
} from '../../../core/memory';
import type { MemoryAsked, MemoryNews } from '../../workers/memory';

/** What a read is for: twice before a write, once after it; and an older file that somebody thinks of writing back. */
export type Role = 'first' | 'second' | 'after' | 'older';

export interface OneRead {
  name: string;
  image: MemoryImage;
  simulated: boolean;
}

/** One task of a worker of its own, so that it can be left. */
function ask(asked: MemoryAsked, hear: (news: MemoryNews) => void): () => void {
  const worker = new Worker(new URL('../../workers/memory.ts', import.meta.url), { type: 'module' });
  worker.addEventListener('message', ({ data }: MessageEvent<MemoryNews>) => {
    if (data.kind !== 'progress') worker.terminate();
    hear(data);
  });
  worker.addEventListener('error', () =>
    hear({ kind: 'problem', message: 'The memory can’t be worked on here. Reload the page and pick the file again.' }),
  );
  worker.postMessage(asked);
  return () => worker.terminate();
}

/** What there is of each read, but of one. */
const without =
  (role: Role) =>
  <T>({ [role]: _gone, ...rest }: Partial<Record<Role, T>>): Partial<Record<Role, T>> =>
    rest as Partial<Record<Role, T>>;

/** The reads of one memory and what can be said of them. Nothing of it leaves the page. */
export function useMemory(layout: Layout) {
  const [reads, setReads] = useState<Partial<Record<Role, OneRead>>>({});
  const [reading, setReading] = useState<Partial<Record<Role, number>>>({});
  const [problems, setProblems] = useState<Partial<Record<Role, string>>>({});
  const [wanted, setWanted] = useState<(SlotWritten & { slot: number; done: SlotAct }) | null>(null);
  const [looked, setLooked] = useState<{ at: Partial<Record<Role, OneRead>>; look: MemoryLook | null } | null>(null);
  const stops = useRef(new Map<Role, () => void>());
  useEffect(() => {
    const all = stops.current;
    return () => all.forEach((stop) => stop());
  }, []);

  useEffect(() => {
    const images = Object.fromEntries(Object.entries(reads).map(([role, r]) => [role, r.image]));
    const all = wanted ? { ...images, wanted: wanted.image } : images;
    return ask({ kind: 'look', reads: all, layout, written: wanted?.slot ?? null }, (news) => {
      if (news.kind !== 'progress') setLooked({ at: reads, look: news.kind === 'look' ? news.look : null });
      if (news.kind === 'problem') setProblems((p) => ({ ...p, first: news.message }));
    });
  }, [reads, wanted, layout]);

  const put = (role: Role, read: OneRead) => {
    setProblems(without(role));
    setReads((r) => ({ ...r, [role]: read }));
    // What was prepared belongs to the reads before it.
    if (role === 'first' || role === 'second') setWanted(null);
  };
  const cancel = (role: Role) => {
    stops.current.get(role)?.();
    setReading(without(role));
  };
  const take = (role: Role, file: File) => {
    cancel(role);
    setProblems(without(role));
    setReading((r) => ({ ...r, [role]: 0 }));
    const stop = ask({ kind: 'read', file, layout }, (news) => {
      if (news.kind === 'progress') return setReading((r) => ({ ...r, [role]: news.share }));
      setReading(without(role));
      if (news.kind === 'problem') setProblems((p) => ({ ...p, [role]: news.message }));
      if (news.kind === 'read') put(role, { name: file.name.slice(0, 160), image: news.image, simulated: false });
    });
    stops.current.set(role, stop);
  };
  const remove = (role: Role) => {
    setReads(without(role));
    if (role === 'first' || role === 'second') setWanted(null);
  };
  /** Everything that was read is told: nothing of what the page shows will move by itself. */
  const settled = Object.keys(reading).length === 0 && looked?.at === reads;
  return { reads, reading, problems, look: looked?.look ?? null, settled, wanted, setWanted, put, take, cancel, remove };
}
export type Memory = ReturnType<typeof useMemory>;

/** A simulated box on a simulated reader: its memory, its contacts, and whether the supply is lost at the next write. */
export function useSimulatedReader(layout: Layout) {
  const [seed, setSeed] = useState(1);
  const [memory, setMemory] = useState<MemoryImage>(() => sampleMemory(layout, 1));
  const [contact, setContact] = useState<Contact>('clean');
  const [lost, setLost] = useState(false);
  const [count, setCount] = useState(1);
  const another = () => {
    setSeed(seed + 1);
    setMemory(sampleMemory(layout, seed + 1));
  };
  const read = (): OneRead => {
    setCount(count + 1);
    return { name: `Simulated read ${count}`, image: simulatedRead(memory, contact, count), simulated: true };
  };
  const write = (image: MemoryImage) => setMemory(simulatedWrite(memory, image, lost));
  return { contact, setContact, lost, setLost, another, read, write };
}
export type SimulatedReader = ReturnType<typeof useSimulatedReader>;

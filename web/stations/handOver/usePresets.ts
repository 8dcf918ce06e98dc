import { useCallback, useEffect, useState } from 'react';
import type { LibraryEntry, LibraryItem } from '../../../contract/index.ts';
import { shippedPresets, type Preset, type Profile } from '../../../core/handOver/index.ts';
import { api } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';

type Entry<K extends LibraryEntry['kind']> = LibraryItem & { item: Extract<LibraryEntry, { kind: K }> };

/** A preset that can be used; those that ship have no place in the library until they are changed. */
export interface KnownPreset {
  preset: Preset;
  id: number | null;
  shipped: boolean;
}

/** The presets of the library, those that ship among them, and its colour profiles. */
export function usePresets() {
  const [items, setItems] = useState<LibraryItem[]>();
  const load = useCallback(async (): Promise<void> => {
    const all = await attempt(api.library());
    if (all) setItems(all);
  }, []);
  useEffect(() => void load(), [load]);
  const of = <K extends LibraryEntry['kind']>(kind: K): Entry<K>[] =>
    (items ?? []).filter((one): one is Entry<K> => one.item.kind === kind);
  const own = of('preset');
  const presets: KnownPreset[] = [
    ...shippedPresets.map((preset): KnownPreset => {
      const changed = own.find(({ item }) => item.entry.name === preset.name);
      return changed
        ? { preset: changed.item.entry, id: changed.id, shipped: true }
        : { preset, id: null, shipped: true };
    }),
    ...own
      .filter(({ item }) => !shippedPresets.some(({ name }) => name === item.entry.name))
      .map(({ id, item }) => ({ preset: item.entry, id, shipped: false })),
  ];
  return {
    ready: items !== undefined,
    presets,
    profiles: of('profile').map(({ item }): Profile => item.entry),
    /** The same name takes the place of what was kept under it. */
    keep: async (preset: Preset): Promise<void> => {
      const same = presets.find((known) => known.preset.name === preset.name);
      const item = { kind: 'preset' as const, entry: preset };
      await attempt(same?.id ? api.changeLibrary(same.id, item) : api.addToLibrary(item));
      await load();
    },
    remove: (id: number): Promise<void> => attempt(api.removeFromLibrary(id)).then(load),
    addProfile: async (file: File): Promise<Profile | undefined> => {
      const item = await attempt(api.uploadProfile(file));
      await load();
      return item?.item.kind === 'profile' ? item.item.entry : undefined;
    },
  };
}
export type Presets = ReturnType<typeof usePresets>;

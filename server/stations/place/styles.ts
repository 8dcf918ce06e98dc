import { and, eq } from 'drizzle-orm';
import type { Style } from '../../../contract/index.ts';
import { lookFacts, lookSwitches, type Look } from '../../../core/place/index.ts';
import { backgrounds, styles } from '../../database/schema.ts';
import { found } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { mergedOrRefused } from '../../http/mergedOrRefused.ts';
import { findShoot } from '../shoots/shoots.ts';
import { ensureStyle, filledLook } from './readStyles.ts';

/** Changes the look of a background in a shoot. @param seen what the change was made on. */
export async function changeStyle(
  context: Context,
  shootId: number,
  backgroundId: number,
  seen: Partial<Look>,
  to: Partial<Look>,
): Promise<Style> {
  const { database, news } = context;
  await findShoot(context, shootId);
  const id = await database.transaction(async (tx) => {
    found((await tx.select().from(backgrounds).where(eq(backgrounds.id, backgroundId)))[0], 'background');
    await ensureStyle(tx, shootId, backgroundId);
    const [row] = await tx
      .select()
      .from(styles)
      .where(and(eq(styles.shootId, shootId), eq(styles.backgroundId, backgroundId)))
      .for('update');
    const look = mergedOrRefused(filledLook(row.look), seen, to, nameOf);
    await tx.update(styles).set({ look }).where(eq(styles.id, row.id));
    return row.id;
  });
  return found(await news.tellOne(shootId, 'styles', id), 'style');
}

/** What a setting is called on the page. */
function nameOf([name]: string[]): string {
  const label = { ...Object.fromEntries(Object.entries(lookFacts).map(([k, v]) => [k, v.label])), ...lookSwitches }[
    name
  ];
  return `“${label}”`;
}

import { and, eq } from 'drizzle-orm';
import type { Style, StyleChange } from '../../../contract/index.ts';
import { lookFacts, lookSwitches, noExtras } from '../../../core/place/index.ts';
import { backgrounds, styles } from '../../database/schema.ts';
import { found } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { mergedOrRefused } from '../../http/mergedOrRefused.ts';
import { findShoot } from '../shoots/shoots.ts';
import { ensureStyle, filledLook } from './readStyles.ts';

/** Changes the style of a background in a shoot. @param seen what the change was made on. */
export async function changeStyle(
  context: Context,
  shootId: number,
  backgroundId: number,
  seen: StyleChange,
  to: StyleChange,
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
    const look = mergedOrRefused(filledLook(row.look), seen.look ?? {}, to.look ?? {}, nameOf);
    const extras = mergedOrRefused({ ...noExtras, ...row.extras }, seen.extras ?? {}, to.extras ?? {}, nameOf);
    const standing = ({ standing: own }: StyleChange): Pick<StyleChange, 'standing'> =>
      own === undefined ? {} : { standing: own };
    const stands = mergedOrRefused({ standing: row.standing }, standing(seen), standing(to), nameOf);
    await tx
      .update(styles)
      .set({ look, extras, ...stands })
      .where(eq(styles.id, row.id));
    return row.id;
  });
  return found(await news.tellOne(shootId, 'styles', id), 'style');
}

/** What a setting is called on the page. */
function nameOf([name]: string[]): string {
  const looks = Object.fromEntries(Object.entries(lookFacts).map(([setting, { label }]) => [setting, label]));
  const label = {
    ...looks,
    ...lookSwitches,
    curves: 'Curves',
    lut: 'Look-up table',
    layers: 'Layers',
    card: 'Card',
    standing: 'Standing',
  }[name];
  return `“${label}”`;
}

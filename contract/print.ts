import { z } from 'zod';
import { id, problemSchema } from './basics.ts';
import { storedHash } from './handOver.ts';

/** Prints that are ordered from a print service. */

/** A file that is to be printed: its content by hash, its size in mm, how often. */
export const printItemSchema = z
  .object({
    name: z.string().max(255),
    sha256: storedHash,
    bytes: z.number().int().min(1),
    width: z.number().positive(),
    height: z.number().positive(),
    paper: z.string().max(20),
    copies: z.number().int().min(1).max(999),
  })
  .strict();
export type PrintItem = z.infer<typeof printItemSchema>;

export const printStates = ['placing', 'priced', 'accepting', 'accepted', 'printed', 'sent', 'failed'] as const;
export type PrintState = (typeof printStates)[number];
/** What the service itself says of an order. */
export const serviceOrderSchema = z.object({
  id: z.string(),
  price: z.number(),
  state: z.enum(['priced', 'accepted', 'printed', 'sent']),
  missing: z.array(storedHash),
});

export const printOrderSchema = z.object({
  id,
  deliveryId: id,
  /** What the service calls it; empty until it knows of it. */
  number: z.string(),
  prints: z.number(),
  price: z.number().nullable(),
  state: z.enum(printStates),
  problem: problemSchema.nullable(),
  createdAt: z.string(),
});
export type PrintOrder = z.infer<typeof printOrderSchema>;
export const newPrintOrderSchema = z.object({ copies: z.number().int().min(1).max(99) }).strict();

/** The HTTP interface: requests, responses and events; server and web both read these. */
export * from './basics.ts';
export * from './bundle.ts';
export * from './shoots.ts';
export * from './gather.ts';
export * from './extract.ts';
export * from './place.ts';
export * from './handOver.ts';
export * from './jobs.ts';
export * from './log.ts';
export * from './plan.ts';
export * from './print.ts';
export * from './check.ts';
export * from './rehearsal.ts';
export * from './events.ts';

export * from './planes';
export { coarserBytes, pushPull, purer } from './filling';
export {
  layout, prepare, rowsPointer, tablePointer, screenPointer, candidatePointer, xsPointer, cellsPointer, readingPointer, backPointer, nearPointer, coveragePointer, errorPointer,
  apartPointer, forePointer, alphaPointer, kindsPointer, finalPointer, encodePointer, amountPointer, gonePointer, pixelsPointer,
} from './layout';
export * from './reading';
export * from './solving';
export * from './finishing';
export * from './network';

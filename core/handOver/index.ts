export { deliveredName, safeName } from './naming.ts';

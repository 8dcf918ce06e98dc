import { faultOf, inWords } from '../server/faults.ts';
import { carryCommand, carryUsage } from './carry.ts';
import { checkCommand, checkUsage } from './check.ts';
import { cutCommand, cutUsage } from './cut.ts';
import { planCommand, planUsage } from './plan.ts';
import { plateCommand, plateUsage } from './plate.ts';
import { shootCommand, shootUsage } from './shoot.ts';
import { UsageError } from './arguments.ts';

const usage = `silent-lawn cut      cut people out of green or blue screen photographs
silent-lawn plate    put the empty screen together from frames of one setup
silent-lawn check    read a test frame: ready or not, and what to change first
silent-lawn plan     compute what a planned set will give and cost
silent-lawn shoot    take frames of a planned set with the stand-in camera
silent-lawn export, import, backup, restore    carry a shoot or everything out and in

${cutUsage}

${plateUsage}

${checkUsage}

${planUsage}

${shootUsage}

${carryUsage}`;

/** @returns exit code: 0 all done, 1 something failed, 2 wrong usage. */
export async function main(args: string[]): Promise<number> {
  const [command, ...rest] = args;
  try {
    switch (command) {
      case 'cut':
        return await cutCommand(rest);
      case 'plate':
        return await plateCommand(rest);
      case 'check':
        return await checkCommand(rest);
      case 'plan':
        return await planCommand(rest);
      case 'shoot':
        return await shootCommand(rest);
      case 'export':
      case 'import':
      case 'backup':
      case 'restore':
        return await carryCommand(command, rest);
      case 'help':
      case '--help':
        console.log(usage);
        return 0;
      default:
        throw new UsageError(command ? `unknown command: ${command}` : 'no command given');
    }
  } catch (error) {
    if (error instanceof UsageError) {
      console.error(`${error.message}\n\n${usage}`);
      return 2;
    }
    // A fault of ours keeps its trace, which is of use to whoever mends it.
    if (!faultOf(error)) throw error;
    console.error(inWords(error));
    return 1;
  }
}

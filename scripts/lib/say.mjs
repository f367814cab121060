/** Ends the script with one clear sentence instead of a stack. */
export class Stop extends Error {}

export const say = (text) => console.log(text);

/** Runs a script's main function; a Stop is printed as its sentence, anything else with its stack. */
export async function main(run) {
  try {
    process.exitCode = (await run()) ?? 0;
  } catch (error) {
    const text = error instanceof Stop ? error.message : error;
    if (text) console.error(text);
    process.exitCode = 1;
  }
}

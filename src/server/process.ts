import { readConfig, type Config } from './config';
import { migrate } from './db';
import { makeServices, type Services } from './services';

/** Ends the process with a sentence. */
export function stop(sentence: string): never {
  console.error(sentence);
  process.exit(1);
}

async function openDatabase(services: Services): Promise<void> {
  const { db } = services.context;
  try {
    await db.authenticate();
  } catch (error) {
    const { host, port } = new URL(services.config.databaseUrl);
    const at = port ? host : `${host}:3306`;
    stop(`The database at ${at} does not let Avrix in: ${(error as Error).message}\nCheck AVRIX_DATABASE_URL.`);
  }
  await migrate(db);
}

/** Reads the environment and opens every service over a database of the newest form; ends with a sentence if it cannot. */
export async function openServices(): Promise<Services> {
  let config: Config;
  try {
    config = readConfig(process.env);
  } catch (error) {
    stop(`The environment is not right:\n${(error as Error).message}`);
  }
  const services = makeServices(config);
  await openDatabase(services);
  return services;
}

/** Ends the process in order when it is asked to; Ctrl-C reaches only the starter. */
export function endOn(end: () => Promise<void>): void {
  process.once('SIGTERM', () => void end().then(() => process.exit(0)));
  process.once('SIGINT', () => undefined);
}

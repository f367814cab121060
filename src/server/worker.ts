import { endOn, openServices } from './process';

/** A process that does background work only, beside the application on the same database. */
const services = await openServices();
services.spoolWriter.start();
services.runner.start();
endOn(async () => {
  await services.spool.close();
  await services.spoolWriter.stop();
  await services.runner.stop();
  await services.closeDatabases();
});
process.send?.('ready');

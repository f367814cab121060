import { endOn, openServices } from './process';

/** Gives somebody a new password, for the operator's command, and says it to who started this. */
const services = await openServices();
const given = await services.members.resetPassword(process.env.AVRIX_PASSWORD_OF ?? '');
const end = async () => {
  await services.spool.close();
  await services.closeDatabases();
};
endOn(end);
process.send?.(given ?? {});

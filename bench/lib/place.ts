import { randomBytes } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection } from 'mariadb';
import { larkmoorSetup } from '../../demo/setup/business';
import { readConfig } from '../../src/server/config';
import { connect, migrate } from '../../src/server/db';
import { makeServices } from '../../src/server/services';
import { setupSchema } from '../../src/server/setup';

/** Larkmoor in a database of its own, with every service over it and a plain connection beside them. */
export async function makeBenchPlace() {
  const url = new URL(process.env.BENCH_DATABASE_URL!);
  const name = `avrix_test_bench_${randomBytes(4).toString('hex')}`;
  const first = connect(url.href);
  await first.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin`);
  await first.close();
  url.pathname = `/${name}`;
  const folder = mkdtempSync(join(tmpdir(), 'avrix-bench-'));
  const services = makeServices(
    readConfig({ AVRIX_DATA: folder, AVRIX_DATABASE_URL: url.href, AVRIX_SECRET_KEY: randomBytes(32).toString('hex') }),
  );
  await migrate(services.context.db);
  const nowhere = 'http://nowhere.localhost:1';
  const setup = larkmoorSetup({ quillsearch: nowhere, oakledger: nowhere, key: (key) => key });
  const business = await services.setUpBusiness(setupSchema.parse(setup));
  const plain = await createConnection({
    host: url.hostname,
    port: Number(url.port),
    user: url.username,
    password: url.password,
    database: name,
    timezone: 'Z',
    bigIntAsNumber: true,
    multipleStatements: false,
  });
  await plain.query("SET time_zone = '+00:00'");
  return { services, business, folder, plain };
}

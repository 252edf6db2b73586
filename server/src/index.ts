import { resolve } from 'node:path';
import { makeApp } from './app';

const DEFAULT_PORT = 4173;

const port = Number(process.env.PORT ?? DEFAULT_PORT);
if (!Number.isInteger(port) || port < 0 || port > 65535) {
  console.error(`PORT is "${process.env.PORT}"; it should be a number from 0 to 65535.`);
  process.exit(2);
}
const folder = process.env.WARPER_ROOT ?? process.cwd();
const app = makeApp({
  application: resolve(folder, 'web/dist'),
  demonstration: resolve(folder, 'demo/made'),
});
const server = app.listen(port);
server.on('listening', () => {
  const address = server.address();
  const actual = typeof address === 'object' && address ? address.port : port;
  console.log(`Warper: http://localhost:${actual}/scene/lamp-round`);
});
server.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EADDRINUSE')
    console.error(`Port ${port} is taken. Choose another one: PORT=${port + 1} npm start`);
  else if (error.code === 'EACCES')
    console.error(`Port ${port} may not be opened. Choose one above 1023: PORT=${DEFAULT_PORT} npm start`);
  else console.error(`The server cannot start: ${error.message}`);
  process.exit(1);
});
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
  });
}

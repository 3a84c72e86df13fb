// Stops or starts this checkout's own database: node bin/database.mjs stop|start. The browser tests take it away and give it back.
import { startPostgres, stopPostgres } from './lib.mjs';

if (process.argv[2] === 'stop') stopPostgres();
else await startPostgres();

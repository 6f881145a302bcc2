// fast-check as the tests take it: the same cases in every run, so that nothing turns red that nobody touched. `npm run properties` draws new
// ones, and ten times as many; what it finds becomes a test of its own.
const path = require('node:path');
const fc = require(path.resolve(__dirname, '../node_modules/fast-check/lib/cjs/fast-check.js'));

fc.configureGlobal(process.env.ARKIV_FUZZ ? { numRuns: 1000 } : { seed: 20260101 });
module.exports = fc;

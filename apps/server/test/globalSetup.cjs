// The test card is made before any test runs, so that no two test files make it at once; what the tests of one run share has a place.
const { execFileSync } = require('node:child_process');
const { existsSync, mkdirSync, mkdtempSync } = require('node:fs');
const os = require('node:os');
const path = require('node:path');

module.exports = function makeTestCard() {
  // Processes that run tests inherit it.
  process.env.ARKIV_TEST_RUN = mkdtempSync(path.join(os.tmpdir(), 'arkiv-run-'));
  const root = path.resolve(__dirname, '../../..');
  const card = path.join(root, 'node_modules/.arkiv/test-cards/press-night-240');
  if (existsSync(card)) return;
  mkdirSync(path.dirname(card), { recursive: true });
  execFileSync(
    process.execPath,
    [path.join(root, 'tools/demo/make-card.mjs'), '--out', card, '--side', '240'],
    { stdio: 'inherit' },
  );
};

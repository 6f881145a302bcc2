const { rmSync } = require('node:fs');

module.exports = function removeShared() {
  rmSync(process.env.ARKIV_TEST_RUN, { recursive: true, force: true });
};

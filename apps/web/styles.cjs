// Stands for a style sheet's names in tests of the page's parts.
module.exports = { __esModule: true, default: new Proxy({}, { get: (_, name) => String(name) }) };

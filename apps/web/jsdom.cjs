// What browsers have and jsdom lacks; the router asks for it when it is loaded.
Object.assign(globalThis, { TextEncoder: require('node:util').TextEncoder });

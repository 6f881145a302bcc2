// Jest's environment for tests that run in Node alone: they run in the process's own context instead of in a sandbox. A sandbox looks every
// global name up in an object of its own, through a proxy: starting the server in one took twice the processor's time. What a test file
// leaves in the global object is taken away behind it, as the sandbox's end would.
const vm = require('node:vm');
const { ModernFakeTimers } = require('@jest/fake-timers');
const { ModuleMocker } = require('jest-mock');

/** What Jest hands on as the context to compile for; it stands for the process's own, which has no object that could be handed on. */
const OWN = Object.freeze({ context: 'own' });
const { compileFunction, Script } = vm;
vm.compileFunction = (code, names, { parsingContext, ...options } = {}) =>
  compileFunction(code, names, parsingContext === OWN ? options : { ...options, parsingContext });
const { runInContext } = Script.prototype;
Script.prototype.runInContext = function (context, options) {
  return context === OWN ? this.runInThisContext(options) : runInContext.call(this, context, options);
};

/** @implements {import('@jest/environment').JestEnvironment} */
module.exports = class OwnContext {
  global = globalThis;
  moduleMocker = new ModuleMocker(globalThis);
  fakeTimers = null;
  #before = new Map(
    Reflect.ownKeys(globalThis).map((key) => [key, Reflect.getOwnPropertyDescriptor(globalThis, key)]),
  );
  #env = { ...process.env };

  constructor({ projectConfig }) {
    this.fakeTimersModern = new ModernFakeTimers({ config: projectConfig, global: globalThis });
    // Node's ten lines are few for an error that went through a request.
    Error.stackTraceLimit = 100;
  }

  async setup() {}

  async teardown() {
    this.fakeTimersModern?.dispose();
    this.fakeTimersModern = null;
    for (const key of Reflect.ownKeys(globalThis)) {
      const before = this.#before.get(key);
      if (!before) Reflect.deleteProperty(globalThis, key);
      else if (before.writable && !Object.is(globalThis[key], before.value)) globalThis[key] = before.value;
    }
    for (const key of Object.keys(process.env)) if (!(key in this.#env)) delete process.env[key];
    Object.assign(process.env, this.#env);
  }

  exportConditions() {
    return ['node', 'node-addons'];
  }

  getVmContext() {
    return OWN;
  }
};

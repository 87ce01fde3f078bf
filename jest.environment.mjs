import vm from 'node:vm';
import { TestEnvironment } from 'jest-environment-node';

/**
 * Node's environment with an ordinary global object. A context's usual one asks an interceptor at each use of `Math`, `Object` and all other globals, which
 * made core's loops ten times slower in tests than in the server.
 */
export default class PlainGlobals extends TestEnvironment {
  constructor(...given) {
    const { createContext } = vm;
    vm.createContext = () => createContext(vm.constants.DONT_CONTEXTIFY);
    try {
      super(...given);
    } finally {
      vm.createContext = createContext;
    }
  }
}

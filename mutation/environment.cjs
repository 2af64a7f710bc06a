const { TestEnvironment } = require('jest-environment-node')
const { mixinJestEnvironment } = require('@stryker-mutator/jest-runner')

/** A mutant one test has noticed needs no other: what comes after the first failure is skipped. */
class Noticed extends TestEnvironment {
  async handleTestEvent(event) {
    if (event.name === 'test_fn_failure' || event.name === 'hook_failure') this.noticed = true
    if (event.name === 'test_start' && this.noticed) event.test.mode = 'skip'
  }
}
module.exports = mixinJestEnvironment(Noticed)

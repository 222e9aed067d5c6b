import { join } from 'node:path';
import { testScenarios } from '../../src/vitest/index.js';
import { ROOT } from '../support.js';

testScenarios(join(ROOT, 'demo/boatyard/scenarios'));

import { testScenarios } from 'loggia/vitest';

testScenarios('scenarios');

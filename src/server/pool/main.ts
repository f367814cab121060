/* What runs in threads of the pool, each by its name: work whose end may be its thread's end. Takes and returns plain data. */
export { parseTable } from '../files/parse-table';
export { deriveRuleEffect } from '../../core/strands/rule-effect';
export { eventEffect } from '../../core/events/effect';
export { workOutBehind, workOutFigures } from '../results/work-out';
export { workOutFunnel, workOutJourneys } from '../results/work-out-funnel';
export { workOutCostTable } from '../results/work-out-cost-table';
export { workOutBridge } from '../results/work-out-bridge';
export { workOutRipeness } from '../results/work-out-ripeness';

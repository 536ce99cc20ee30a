export { CURRENCY, inCurrency, type Money, type Rate, readMoney } from "./money";
export { type CostedPart, type CostTotals, costedPart, costOf, type Gap, type PartCost, rollUpCosts } from "./rollup";

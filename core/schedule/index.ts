export { type Day, dayOf, dayPolicies, type DayPolicy } from './day';
export type { AttendedStep, Instance, ScheduledCase, ScheduleStep, Technician, WaitStep } from './instance';
export { byOrder, type CaseEnd, type Plan, type PlanAsked, planOf, settled, type StandingOrder, type Touch, worthAJump } from './plan';
export { usualSpread } from './order';
export { usualSituations } from './search';

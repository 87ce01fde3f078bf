import { index, layout, route, type RouteConfig } from '@react-router/dev/routes';

export default [
  layout('shell/shell.tsx', [
    index('floor/floor.tsx'),
    route('cases', 'cases/list.tsx'),
    route('cases/new', 'cases/new.tsx'),
    route('cases/:caseId', 'cases/case.tsx'),
    route('cases/:caseId/verify', 'cases/verify.tsx'),
    route('cases/:caseId/hand-over', 'cases/handOver.tsx'),
    route('cases/:caseId/runs/:runId', 'run/run.tsx'),
    route('find', 'shell/find.tsx'),
    route('bench', 'places/bench.tsx'),
    route('library', 'places/library.tsx'),
    route('practice', 'places/practice.tsx'),
    route('shop', 'places/shop.tsx'),
    route('*', 'shell/notFound.tsx'),
  ]),
  route('cases/:caseId/report', 'report/report.tsx'),
  route('runs/:runId/commands', 'run/commands.ts'),
  route('clock', 'shell/clock.ts'),
] satisfies RouteConfig;

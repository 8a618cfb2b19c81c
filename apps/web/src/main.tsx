import { askAhead } from './api/asked-ahead.ts';
import { viewCode } from './shell/view-code.ts';
import './index.css';

// A project is on its way while the code that shows it still is: most of what opening takes is waiting.
const [, projectId, view] = /^\/projects\/([^/]+)(?:\/(\w+))?/.exec(location.pathname) ?? [];
if (projectId) askAhead(projectId);
void import('./start.tsx');
if (view && view in viewCode) viewCode[view as keyof typeof viewCode]().catch(() => undefined); // said where it is shown

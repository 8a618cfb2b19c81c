import { brokenNetwork } from './broken-network.mjs';
import { clocks } from './clocks.mjs';
import { fullDisk } from './full-disk.mjs';
import { hostileRequests } from './hostile-requests.mjs';
import { kills } from './kills.mjs';
import { mutatedMedia } from './mutated-media.mjs';
import { poisonedDocuments } from './poisoned-documents.mjs';
import { tabsAndServers } from './tabs-and-servers.mjs';

/**
 * What is done to Bluster, in this order.
 * @type {readonly { name: string, run: (to: import('../run.mjs').Torment) => Promise<void> }[]}
 */
export const SCENARIOS = [kills, fullDisk, tabsAndServers, mutatedMedia, hostileRequests, poisonedDocuments, clocks, brokenNetwork];

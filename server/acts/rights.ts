import { type Role, roles } from '../db/schema';

/**
 * Every act and the least role that may do it (product.md, "People and rights"). A lead may all that a technician may, an owner all that a
 * lead may.
 */
export const rights = {
  look: 'technician',
  ownAccount: 'technician',
  takeCalls: 'technician',
  openCase: 'technician',
  editIntake: 'technician',
  recordEvidence: 'technician',
  recordAuthority: 'technician',
  keepKeys: 'technician',
  attachPhotos: 'technician',
  readCounters: 'technician',
  work: 'technician',
  verifyKeys: 'technician',
  parkCase: 'technician',
  makeOffers: 'technician',
  closeCase: 'technician',
  exportCase: 'technician',
  recordOtherAuthority: 'lead',
  waivePrecondition: 'lead',
  closeWithoutProof: 'lead',
  sealSecrets: 'lead',
  openSecrets: 'lead',
  destroySecrets: 'lead',
  importCase: 'lead',
  exportPersonalData: 'lead',
  readAudit: 'lead',
  editShop: 'lead',
  editLibrary: 'lead',
  setRelease: 'owner',
  setPrices: 'owner',
  erasePersonalData: 'owner',
  managePeople: 'owner',
  endSessions: 'owner',
  openAddresses: 'owner',
  backUp: 'owner',
} as const satisfies Record<string, Role>;
export type Right = keyof typeof rights;

/** Who acts. */
export interface Person {
  id: string;
  name: string;
  initials: string;
  role: Role;
}

export const may = (person: Pick<Person, 'role'>, right: Right): boolean => roles.indexOf(person.role) >= roles.indexOf(rights[right]);

/** Who may see a page, and by which right each of its acts is done. `anyone`: also without being signed in. */
export interface PageRights {
  see: Right | 'anyone';
  acts?: Readonly<Record<string, Right | 'anyone'>>;
  /** Answers by itself and renders no page. */
  alone?: true;
}

/** Every address of the app. One that is missing here is refused, and a test that walks the router's own manifest fails for it. */
export const pages = {
  '/': { see: 'look', acts: { setTechnicians: 'work', setAtWork: 'work', setPlace: 'editIntake' } },
  '/find': { see: 'look' },
  '/clock': { see: 'anyone' },
  '/sign-in': { see: 'anyone', acts: { signIn: 'anyone' } },
  '/set-up': { see: 'anyone', acts: { setUp: 'anyone' } },
  '/wall/:token': { see: 'anyone' },
  '/calendar/:token': { see: 'anyone' },
  '/join/:token': { see: 'anyone', acts: { join: 'anyone' } },
  '/unlock': { see: 'anyone', acts: { unlock: 'anyone' } },
  '/session': { see: 'ownAccount', acts: { touch: 'ownAccount', lock: 'ownAccount', signOut: 'anyone' }, alone: true },
  '/cases': { see: 'look' },
  '/cases/new': { see: 'openCase', acts: { open: 'openCase' } },
  '/cases/drafts': { see: 'openCase', acts: { keepDraft: 'openCase', discardDraft: 'openCase' }, alone: true },
  '/cases/known': { see: 'look' },
  '/cases/import': { see: 'importCase', acts: { take: 'importCase' } },
  '/cases.csv': { see: 'look' },
  '/cases/:caseId': {
    see: 'look',
    acts: {
      evidence: 'recordEvidence',
      repairAction: 'recordEvidence',
      withdraw: 'recordEvidence',
      authority: 'recordAuthority',
      startRun: 'work',
      counter: 'readCounters',
      part: 'keepKeys',
      custody: 'keepKeys',
      park: 'parkCase',
      reopen: 'parkCase',
      saveNumbers: 'editLibrary',
    },
  },
  '/cases/:caseId/diagnosis': { see: 'look' },
  '/cases/:caseId/identify': { see: 'look', acts: { identify: 'editIntake' } },
  '/cases/:caseId/triage': { see: 'look', acts: { changed: 'editIntake' } },
  '/cases/:caseId/intake': { see: 'look', acts: { change: 'editIntake' } },
  '/cases/:caseId/keys/:tag': { see: 'look', acts: { change: 'keepKeys', add: 'keepKeys', custody: 'keepKeys' } },
  '/cases/:caseId/labels': { see: 'look' },
  '/cases/:caseId/photos': { see: 'look', acts: { attach: 'attachPhotos' }, alone: true },
  '/cases/:caseId/photos/:photoId': { see: 'look' },
  '/cases/:caseId/codes': { see: 'look', acts: { scan: 'recordEvidence', live: 'recordEvidence' } },
  '/cases/:caseId/codes/export': { see: 'look' },
  '/cases/:caseId/replacement': {
    see: 'look',
    acts: {
      plan: 'recordEvidence',
      end: 'recordEvidence',
      variant: 'recordEvidence',
      fits: 'recordEvidence',
      saved: 'recordEvidence',
      causes: 'recordEvidence',
      step: 'recordEvidence',
    },
  },
  '/cases/:caseId/vault': {
    see: 'look',
    acts: { seal: 'sealSecrets', dispose: 'sealSecrets', destroy: 'destroySecrets', askRelease: 'openSecrets', grant: 'openSecrets' },
  },
  '/cases/:caseId/vault/secrets': { see: 'work', acts: { compare: 'work' }, alone: true },
  '/cases/:caseId/vault/:itemId': { see: 'openSecrets', acts: { open: 'openSecrets', copyOut: 'openSecrets', pass: 'openSecrets' }, alone: true },
  '/take/:token': { see: 'openSecrets' },
  '/take/:token/now': { see: 'openSecrets', acts: { take: 'openSecrets' }, alone: true },
  '/cases/:caseId/verify': { see: 'verifyKeys', acts: { verify: 'verifyKeys' } },
  '/cases/:caseId/hand-over': { see: 'closeCase', acts: { close: 'closeCase', closeNotDone: 'closeCase' } },
  '/cases/:caseId/options': {
    see: 'look',
    acts: { change: 'makeOffers', add: 'makeOffers', hide: 'makeOffers', show: 'makeOffers', agree: 'makeOffers', decline: 'makeOffers' },
  },
  '/cases/:caseId/papers': { see: 'look', acts: { write: 'makeOffers' } },
  '/cases/:caseId/papers.pdf': { see: 'look' },
  '/cases/:caseId/bill.csv': { see: 'look' },
  '/cases/:caseId/calendar.ics': { see: 'look' },
  '/cases/:caseId/after': { see: 'look', acts: { heard: 'closeCase', cameBack: 'openCase', leaveOut: 'closeCase', learnAgain: 'closeCase' } },
  '/cases/:caseId/report': { see: 'look' },
  '/cases/:caseId/runs/:runId': { see: 'look' },
  '/runs/:runId/commands': { see: 'look', acts: { command: 'work' }, alone: true },
  '/cases/:caseId/export': { see: 'exportCase' },
  '/cases/:caseId/personal': { see: 'exportPersonalData', acts: { erase: 'erasePersonalData' }, alone: true },
  '/keys/:code': { see: 'look' },
  '/calls': { see: 'takeCalls' },
  '/calls/new': { see: 'takeCalls', acts: { keep: 'takeCalls', takeIn: 'takeCalls' } },
  '/calls/:callId': { see: 'takeCalls', acts: { keep: 'takeCalls', takeIn: 'takeCalls', discard: 'takeCalls' } },
  '/bench': { see: 'look' },
  '/bench/lamp': { see: 'look', acts: { add: 'recordEvidence' } },
  '/bench/ladder': { see: 'look', acts: { measure: 'recordEvidence' } },
  '/bench/substitute': { see: 'look' },
  '/bench/steps': { see: 'look', acts: { try: 'recordEvidence', takeBack: 'recordEvidence' } },
  '/bench/trials': { see: 'look', acts: { measure: 'recordEvidence' } },
  '/bench/bursts': { see: 'look', acts: { measure: 'recordEvidence', setAside: 'recordEvidence' } },
  '/bench/battery': { see: 'look' },
  '/bench/memory': { see: 'look', acts: { measure: 'recordEvidence' } },
  '/bench/copy-check': { see: 'look' },
  '/bench/meter': { see: 'look', acts: { read: 'recordEvidence', set: 'recordEvidence' }, alone: true },
  '/bench/meter/capture': { see: 'recordEvidence' },
  '/library': { see: 'look', acts: { retire: 'editLibrary', restore: 'editLibrary' } },
  '/library/:familyId': { see: 'look' },
  '/library/import': { see: 'editLibrary', acts: { importDocument: 'editLibrary' } },
  '/library/codes': { see: 'look' },
  '/library/ladders': { see: 'look' },
  '/library/ladders/:ladderId': { see: 'look', acts: { save: 'editLibrary', retire: 'editLibrary', restore: 'editLibrary' } },
  '/library/ladders/:ladderId/export': { see: 'look' },
  '/library/layouts': { see: 'look' },
  '/library/layouts/:layoutId': { see: 'look', acts: { retire: 'editLibrary', restore: 'editLibrary' } },
  '/library/layouts/:layoutId/export': { see: 'look' },
  '/library/procedures/:procedureId': {
    see: 'look',
    acts: { save: 'editLibrary', steps: 'editLibrary', copy: 'editLibrary', retire: 'editLibrary', restore: 'editLibrary' },
  },
  '/library/procedures/:procedureId/export': { see: 'look' },
  '/library/profiles/new': { see: 'editLibrary', acts: { create: 'editLibrary' } },
  '/library/profiles/:profileId': { see: 'look', acts: { save: 'editLibrary', retire: 'editLibrary', restore: 'editLibrary' } },
  '/library/profiles/:profileId/compare': { see: 'look' },
  '/library/profiles/:profileId/export': { see: 'look' },
  '/practice': { see: 'look' },
  '/shop': {
    see: 'look',
    acts: {
      saveShop: 'editShop',
      savePicture: 'editShop',
      removePicture: 'editShop',
      addBay: 'editShop',
      renameBay: 'editShop',
      retireBay: 'editShop',
    },
  },
  '/shop/picture': { see: 'look' },
  '/shop/meters': { see: 'look', acts: { saveMeter: 'editShop', retireMeter: 'editShop', saveDrawer: 'editShop' } },
  '/shop/prices': { see: 'look', acts: { savePrices: 'setPrices' } },
  '/shop/prices.csv': { see: 'look' },
  '/shop/learned': { see: 'look', acts: { importLearned: 'editShop', removeLearned: 'editShop' } },
  '/shop/learned.json': { see: 'editShop' },
  '/shop/me': { see: 'ownAccount', acts: { password: 'ownAccount', pin: 'ownAccount', endSession: 'ownAccount' } },
  '/shop/people': {
    see: 'managePeople',
    acts: {
      invite: 'managePeople',
      role: 'managePeople',
      training: 'managePeople',
      lock: 'managePeople',
      unlock: 'managePeople',
      reset: 'managePeople',
    },
  },
  '/shop/vault': { see: 'openSecrets', acts: { two: 'setRelease' } },
  '/shop/addresses': { see: 'openAddresses', acts: { open: 'openAddresses', revoke: 'openAddresses' } },
  '/shop/backups': { see: 'backUp', acts: { backUp: 'backUp', cancelBackup: 'backUp', saveRule: 'backUp' } },
  '/shop/devices': { see: 'endSessions', acts: { end: 'endSessions' } },
  '/shop/audit': { see: 'readAudit' },
  '/shop/audit.csv': { see: 'readAudit' },
  '/*': { see: 'look' },
} as const satisfies Record<string, PageRights>;
export type Page = keyof typeof pages;

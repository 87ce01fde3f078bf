import type { Coverage } from './coverage';
import type { Relevance } from './documents';
import type { ScannedModule } from './modules';
import type { CoverageNote } from './scan';
import type { CodeStatus } from './status';

/** The four groups in which codes stand in a case. */
export const relevanceWords: Readonly<Record<Relevance, string>> = {
  about: 'About this',
  may: 'May matter',
  later: 'Later: check again once it cranks',
  not: 'Not about this',
};

/** Modules as a scan report may name them. */
export const scannedWords: Readonly<Record<ScannedModule, string>> = {
  immobilizer: 'immobilizer',
  steering: 'steering lock',
  lock: 'ignition switch',
  transmission: 'TCM',
  engine: 'ECM',
  body: 'BCM',
  cluster: 'cluster',
  brakes: 'brakes',
  airbag: 'airbag',
  gateway: 'gateway',
  starter: 'keyless start module',
  climate: 'climate',
  radio: 'radio',
};

/** Whether a code is there now. */
export const statusWords: Readonly<Record<CodeStatus, string>> = { present: 'present', stored: 'stored', pending: 'pending' };

/** Whether a module was heard. */
export const coverageWords: Readonly<Record<Coverage, string>> = { answered: 'answered', silent: 'silent', notAsked: 'not scanned' };

/** What it means who was heard. */
export const coverageNoteWords: Readonly<Record<CoverageNote, string>> = {
  immobilizerNotAsked: 'The immobilizer was not scanned: this scan proves nothing about it.',
  engineNotAsked: 'The ECM was not scanned: this scan proves nothing about it.',
  immobilizerSilent:
    'The immobilizer is silent. With the key on, check its fuse, ground and wake-up wire, then the network. If the security light follows the key, suspect the diagnostic line or the scan tool.',
  engineSilent: 'The ECM is silent. Check its main relay first; in some systems it waits for the immobilizer.',
  allSilent: 'Every module is silent. Check the diagnostic connector, the gateway and the battery.',
  noCodes: 'No trouble codes: that means little. A dead key sets none.',
};

/**
 * The failure type byte in our own words (SAE J2012-DA has the public list; nobody compared these with its text). What isn't here is said to be unknown.
 */
export const failureTypes: Readonly<Record<string, string>> = {
  '00': 'no further detail',
  '01': 'general electrical fault',
  '02': 'general signal fault',
  '04': 'internal fault of the system',
  '05': 'programming fault of the system',
  '07': 'mechanical fault',
  '08': 'bus signal or message fault',
  '09': 'component fault',
  '11': 'circuit shorted to ground',
  '12': 'circuit shorted to battery',
  '13': 'circuit open',
  '14': 'circuit shorted to ground or open',
  '15': 'circuit shorted to battery or open',
  '16': 'circuit voltage too low',
  '17': 'circuit voltage too high',
  '18': 'circuit current too low',
  '19': 'circuit current too high',
  '1A': 'circuit resistance too low',
  '1B': 'circuit resistance too high',
  '1C': 'circuit voltage out of range',
  '1D': 'circuit current out of range',
  '1E': 'circuit resistance out of range',
  '1F': 'circuit intermittent',
  '21': 'signal too small',
  '22': 'signal too large',
  '23': 'signal stuck low',
  '24': 'signal stuck high',
  '25': 'wrong signal shape',
  '26': 'signal changes too slowly',
  '27': 'signal changes too fast',
  '28': 'signal offset out of range',
  '29': 'signal invalid',
  '2F': 'signal erratic',
  '31': 'no signal',
  '38': 'wrong signal frequency',
  '41': 'checksum wrong',
  '42': 'memory fault',
  '44': 'data memory fault',
  '45': 'program memory fault',
  '46': 'calibration memory fault',
  '47': 'watchdog or safety processor fault',
  '48': 'software supervision fault',
  '49': 'internal electronic fault',
  '4A': 'wrong component installed',
  '4B': 'too hot',
  '51': 'not programmed',
  '52': 'not activated',
  '53': 'deactivated',
  '54': 'calibration missing',
  '55': 'not configured',
  '56': 'configuration invalid or incompatible',
  '61': 'signal calculated wrong',
  '62': 'signals disagree',
  '64': 'signal not plausible',
  '71': 'actuator stuck',
  '72': 'actuator stuck open',
  '73': 'actuator stuck closed',
  '76': 'wrong mounting position',
  '77': 'commanded position not reached',
  '81': 'invalid data received',
  '82': 'message counter wrong',
  '83': 'message protection wrong',
  '86': 'signal in the message invalid',
  '87': 'message missing',
  '88': 'bus off',
  '92': 'wrong operation',
  '93': 'no operation',
  '94': 'unexpected operation',
  '95': 'assembled wrong',
  '96': 'component fault inside',
  '97': 'operation obstructed',
  '98': 'component too hot',
};

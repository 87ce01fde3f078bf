/** What core/codes says, by code. */
export const sentences = {
  system_powertrain: 'Powertrain',
  system_chassis: 'Chassis',
  system_body: 'Body',
  system_network: 'Network',
  reserved: (code: string) => `${code} is in a range that has no meaning yet. Read it again.`,
  makers: (system: string) => `${system} trouble code of the vehicle’s maker. Only the service information of this vehicle says what it means.`,
  publicUnknown: (system: string) => `${system} trouble code of the public standard. Its text is not in this library.`,
  publicRange: (system: string, range: string) => `${system} trouble code of the public standard, ${range}. Its text is not in this library.`,
  failureUnknown: (type: string) => `failure type ${type}, which is not in this library`,
  whyUnknown: 'Nobody here knows what it means, so it may matter. Look it up in the service information.',
  noByte: (place: number) => `Byte ${place} is not a whole number from 0 to 255. Correct it.`,
  cutOff: (length: number, wide: number) => `${length} bytes are no whole number of trouble codes of ${wide} bytes. Read them again to the end.`,
} as const;

export function compileKernel(): Promise<Uint8Array>;

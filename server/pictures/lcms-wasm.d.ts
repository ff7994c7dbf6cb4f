/** The part of Little CMS for WebAssembly that is used; the package has no types of its own. */
declare module 'lcms-wasm' {
  interface Engine {
    cmsOpenProfileFromMem: (bytes: Uint8Array, length: number) => number;
    cmsCloseProfile: (profile: number) => void;
    cmsCreate_sRGBProfile: () => number;
    cmsCreateXYZProfile: () => number;
    cmsGetColorSpaceASCII: (profile: number) => string | null;
    /** 0 where there is no way from one to the other. */
    cmsCreateTransform: (
      from: number,
      fromType: number,
      to: number,
      toType: number,
      intent: number,
      flags: number,
    ) => number;
    cmsDeleteTransform: (transform: number) => void;
    cmsDoTransform: (transform: number, values: Float32Array, count: number) => Float32Array;
  }
  export function instantiate(): Promise<Engine>;
  export const cmsFLAGS_NOOPTIMIZE: number;
}

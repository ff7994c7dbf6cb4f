declare module 'libraw-wasm/dist/libraw.js' {
  /** Makes a library from its compiled module; what of it is used stands where it is used. */
  const make: (options: object) => Promise<unknown>;
  export default make;
}

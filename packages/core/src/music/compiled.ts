/** The part of the WebAssembly interface that is used; it is there in pages, workers and Node, but not in ECMAScript's own types. */
interface Host {
  readonly WebAssembly: {
    readonly Module: new (bytes: Uint8Array) => object;
    readonly Instance: new (module: object) => { readonly exports: unknown };
  };
}

/** What all compiled code offers; addresses in bytes. */
export interface CompiledCode {
  readonly memory: { readonly buffer: ArrayBuffer };
  /** where free memory starts */
  freeFrom(): number;
}

/** Code that may be asked for more memory than it starts with. */
export interface GrowingCode extends CompiledCode {
  /** makes sure that memory reaches to an address; 0 where there is not enough */
  reach(address: number): number;
}

const modules = new WeakMap<Uint8Array, object>();

/** A new instance of compiled code, with a memory of its own; the code is compiled once. */
export function instanceOf<Code extends CompiledCode>(bytes: Uint8Array): Code {
  const { WebAssembly } = globalThis as unknown as Host;
  let module = modules.get(bytes);
  if (!module) modules.set(bytes, (module = new WebAssembly.Module(bytes)));
  return new WebAssembly.Instance(module).exports as Code;
}

/** The first address that is free, where every kind of value may lie. */
export function firstFree(code: CompiledCode): number {
  return 16 * Math.ceil(code.freeFrom() / 16);
}

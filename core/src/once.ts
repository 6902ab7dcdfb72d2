/**
 * What is remembered about objects that never change, kept on the objects themselves, where no copy, comparison or document sees it.
 * A weak map would be gone through by every collection of garbage, and keeps what young objects had until the next full one.
 */
export class Beside<K extends object, V> {
  private readonly at = Symbol();

  get(key: K): V | undefined {
    return (key as Readonly<Record<symbol, V>>)[this.at];
  }

  set(key: K, value: V): V {
    Object.defineProperty(key, this.at, { value, configurable: true });
    return value;
  }
}

/** A function of things that never change, asked once for each of them and remembered as long as they are there; undefined is asked again. */
export function onceFor<K extends object, V>(make: (key: K) => V): (key: K) => V {
  const known = new Beside<K, V>();
  return (key) => known.get(key) ?? known.set(key, make(key));
}

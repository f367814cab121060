/** A method and a path with `{name}` for each parameter, as operations of the API and endpoints of the interface have. */
export interface Route {
  method: 'get' | 'post';
  path: string;
}

/** What a request leads to: a route with the parameters of its path, or the methods that its path takes; none where nothing is there. */
export type Found<R extends Route> = { route: R; parameters: Record<string, string> } | { methods: string[] };

/**
 * Finds routes by method and path. Where two paths match, the one that was listed first counts.
 *
 * @returns a function from a method and a path to what is there
 */
export function makeRoutes<R extends Route>(routes: readonly R[]): (method: string, path: string) => Found<R> {
  const compiled = routes.map((route) => ({
    route,
    pattern: new RegExp(`^${route.path.replace(/[.]/g, '\\.').replace(/\{(\w+)\}/g, '(?<$1>[^/]+)')}$`),
  }));
  return (method, path) => {
    const here = compiled.flatMap(({ route, pattern }) => {
      const match = pattern.exec(path);
      return match ? [{ route, parameters: { ...match.groups } }] : [];
    });
    const asked = method === 'HEAD' ? 'get' : method.toLowerCase();
    const found = here.find(({ route }) => route.method === asked);
    return found ?? { methods: [...new Set(here.map(({ route }) => route.method.toUpperCase()))] };
  };
}

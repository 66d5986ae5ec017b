// For tests: the fields of what stands in a notebook document, from its schema.
import schema from '../../../../docs/notebook.schema.json';

type Node = { $ref?: string; properties?: Record<string, Node>; items?: Node };
const defs = schema.$defs as Record<string, Node>;

/** Every field of a definition, by its path. */
export function leaves(name: string): string[] {
  const walk = (node: Node, path: string): string[] => {
    const now = node.$ref ? defs[node.$ref.split('/').at(-1)!]! : node;
    if (now.items) return walk(now.items, path);
    if (!now.properties) return [path];
    return Object.entries(now.properties).flatMap(([key, n]) => walk(n, path ? `${path}.${key}` : key));
  };
  return walk(defs[name]!, '').filter((path) => path !== 'revision');
}

import type { OpenApi, Operation } from './document.ts';

const STYLE = `
  :root { color-scheme: light dark; font: 15px/1.5 system-ui, sans-serif; }
  body { max-width: 62rem; margin: 2rem auto; padding: 0 1rem; }
  h2 { margin-top: 2.5rem; text-transform: capitalize; }
  section { border-top: 1px solid #8885; padding: 0.75rem 0; }
  section > p:first-of-type::first-letter { text-transform: uppercase; }
  h3 { margin: 0; font: 600 1rem/1.5 ui-monospace, monospace; overflow-wrap: anywhere; }
  p { margin: 0.15rem 0; }
  summary { cursor: pointer; min-height: 1.75rem; }
  pre { overflow-x: auto; padding: 0.75rem; background: #8882; border-radius: 6px; font-size: 0.8125rem; }
  code { font-family: ui-monospace, monospace; }
`;

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

/** The document of the interface as a page that anybody can read, without a script. @param nonce of its style */
export function pageOf(openapi: OpenApi, nonce: string): string {
  const byTag = new Map<string, string[]>();
  for (const [place, methods] of Object.entries(openapi.paths))
    for (const [method, operation] of Object.entries(methods)) {
      const [tag] = operation.tags;
      byTag.set(tag, [...(byTag.get(tag) ?? []), sectionOf(method, place, operation)]);
    }
  const parts = [...byTag].map(
    ([tag, sections]) => `<h2 id="${tag}">${tag.replaceAll('-', ' ')}</h2>${sections.join('')}`,
  );
  const places = [...byTag.keys()].map((tag) => `<a href="#${tag}">${tag.replaceAll('-', ' ')}</a>`).join(' · ');
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>Interface · Rouse</title><style nonce="${nonce}">${STYLE}</style></head><body><main>
<h1>The interface of Rouse</h1><p>${escaped(openapi.info.description)} As a document for machines: <a href="/api/openapi.json">openapi.json</a>.</p>
<nav aria-label="Subjects"><p>${places}</p></nav>${parts.join('')}</main></body></html>`;
}

function sectionOf(method: string, place: string, operation: Operation): string {
  const { summary, parameters, requestBody } = operation;
  const query = parameters.filter((p) => p.in === 'query').map((p) => `<code>${escaped(p.name)}</code>${p.required ? '' : ' (may be left out)'}`); // oxfmt-ignore
  const bodies = Object.entries(requestBody?.content ?? {}).map(([type, { schema }]) =>
    type === 'application/json'
      ? `<details><summary>What is sent</summary><pre tabindex="0">${escaped(JSON.stringify(schema, null, 2))}</pre></details>`
      : `<p>Sent as ${escaped(type)}.</p>`,
  );
  return `<section id="${operation.operationId}"><h3>${method.toUpperCase()} /api${escaped(place)}</h3>
<p>${escaped(summary)}. Needs <code>${operation['x-needs']}</code>.</p>${query.length > 0 ? `<p>Behind the question mark: ${query.join(', ')}.</p>` : ''}${bodies.join('')}</section>`;
}

import { createServer } from 'node:http';
import { readFile } from 'node:fs/promises';

import { summary } from './levels.mjs';
import { drawChart } from './chart.mjs';

const PORT = Number(process.env.PORT || 8080);

async function latest() {
  const text = await readFile('latest.json', 'utf8');
  return JSON.parse(text);
}

const routes = {
  '/levels': async () => ({ type: 'application/json', body: JSON.stringify(summary(await latest())) }),
  '/chart.svg': async () => ({ type: 'image/svg+xml', body: drawChart(await latest()) }),
};

createServer(async (request, response) => {
  const route = routes[request.url];
  if (!route) {
    response.writeHead(404).end('no such page');
    return;
  }
  try {
    const { type, body } = await route();
    response.writeHead(200, { 'content-type': type }).end(body);
  } catch (problem) {
    response.writeHead(500).end(String(problem));
  }
}).listen(PORT);

import { parentPort, workerData } from 'node:worker_threads';
import {
  PageMatcher,
  containmentProblem,
  factWords,
  normalForm,
  pageSkeleton,
  pagePatternProblem,
  placementOfStatement,
  readCode,
  runChecks,
  suggestNames,
  suggestParts,
  TooMuchError,
} from '@pragmatica/core';

const part = (key, code, placement) => ({
  key,
  name: key,
  purpose: '',
  provider: '',
  note: '',
  state: 'on',
  pages: { include: [], exclude: [] },
  parts: [{ placement, rank: 0, code }],
});

const READERS = {
  read(code) {
    const facts = readCode(code);
    factWords(facts);
    suggestNames(facts);
    suggestParts(code, code.slice(0, 2_000));
    placementOfStatement(code.slice(0, 2_000));
    normalForm(code);
    try {
      pageSkeleton('/', code);
    } catch (error) {
      if (!(error instanceof TooMuchError)) throw error;
    }
  },
  check(code) {
    for (const placement of ['head-end', 'body-end']) containmentProblem(code, placement);
    const half = code.slice(0, code.length / 2);
    runChecks({
      format: 'pragmatica-set/1',
      site: { key: 'fuzz', name: 'Fuzz', timeZone: 'UTC' },
      snippets: [
        part('one', code, 'head-end'),
        part('two', half, 'body-end'),
        part('three', code, 'body-end'),
      ],
    });
  },
  pattern(input) {
    const [source, path] = JSON.parse(input);
    if (pagePatternProblem(source) === undefined)
      new PageMatcher({ include: [source], exclude: [] }).match(path);
  },
};

parentPort.on('message', (input) => {
  try {
    READERS[workerData](input);
    parentPort.postMessage(undefined);
  } catch (error) {
    parentPort.postMessage(
      error instanceof Error ? (error.stack ?? error.message).slice(0, 600) : String(error),
    );
  }
});

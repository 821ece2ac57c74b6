// Tells of every test that failed, from the reports given: its file, its name, and the first lines of why.
import { existsSync, readFileSync } from 'node:fs';
import { relative } from 'node:path';
import { stripVTControlCharacters } from 'node:util';

const LINES = 12;

for (const file of process.argv.slice(2).filter(existsSync)) {
  for (const { name, message, assertionResults } of JSON.parse(readFileSync(file, 'utf8')).testResults) {
    const failed = assertionResults.filter(({ status }) => status === 'failed');
    const told = failed.map(({ fullName, failureMessages }) => [fullName, failureMessages.join('\n')]);
    // A file that did not come as far as its tests.
    if (assertionResults.length === 0 && message) told.push(['the file itself', message]);
    for (const [test, why] of told) {
      const lines = stripVTControlCharacters(why).split('\n').filter(Boolean).slice(0, LINES);
      console.log(`FAILED ${relative('.', name)}: ${test}\n${lines.map((line) => `  ${line}`).join('\n')}`);
    }
  }
}

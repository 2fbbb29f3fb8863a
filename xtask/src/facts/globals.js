// Prints the names that JavaScript and TypeScript know without an import, or what the modules of Node.js offer. The folder of the TypeScript
// package is an argument.
const fs = require('fs');
const path = require('path');

const WRAPPED = ['arguments', 'exports', 'module', 'require', '__dirname', '__filename', 'undefined', 'NodeJS'];
const TESTED = [
  'describe',
  'it',
  'test',
  'suite',
  'expect',
  'before',
  'after',
  'beforeAll',
  'afterAll',
  'beforeEach',
  'afterEach'
];

function declared(folder) {
  const ts = require(folder);
  const names = new Set();
  const lib = path.join(folder, 'lib');
  for (const file of fs.readdirSync(lib).filter(name => /^lib\..*\.d\.ts$/.test(name))) {
    const source = ts.createSourceFile(file, fs.readFileSync(path.join(lib, file), 'utf8'), ts.ScriptTarget.Latest);
    for (const statement of source.statements) {
      const declarations = statement.declarationList ? statement.declarationList.declarations : [statement];
      declarations.filter(one => one.name && one.name.text).forEach(one => names.add(one.name.text));
    }
  }
  return names;
}

const [folder, what] = process.argv.slice(2);
if (what === 'globals') {
  const names = declared(folder);
  Object.getOwnPropertyNames(globalThis).forEach(name => names.add(name));
  [...WRAPPED, ...TESTED].forEach(name => names.add(name));
  console.log(
    `# TypeScript ${require(folder).version}, Node.js ${process.versions.node.split('.')[0]}: names that are there without an import`
  );
  console.log([...names].filter(name => /^[\w$]+$/.test(name)).sort().join(' '));
} else {
  console.log(`# Node.js ${process.versions.node.split('.')[0]}: what built-in modules offer`);
  const left = ['sys', 'test', 'wasi', 'constants', 'punycode', 'domain', 'process', 'console'];
  for (const name of require('module').builtinModules.filter(name => !name.startsWith('_') && !left.includes(name))
    .sort()) {
    const offered = Object.getOwnPropertyNames(require(name))
      .filter(own => /^[A-Za-z]\w*$/.test(own) && !['length', 'name', 'prototype', 'default'].includes(own));
    console.log(name, offered.sort().join(' '));
  }
}

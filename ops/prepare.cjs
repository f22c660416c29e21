// Makes ready what `./calque` needs: the right Node.js, the packages of npm, the bundled programs. Plain enough for any Node.js to say what is wrong.
'use strict';
var childProcess = require('child_process'),
  crypto = require('crypto'),
  fs = require('fs'),
  path = require('path');

var WANTED = [20, 9];
var root = path.join(__dirname, '..');
var STAMP = path.join(root, 'node_modules', '.calque-stamp'),
  LOCK = path.join(root, 'package-lock.json'),
  BUNDLED = path.join(root, '.build', 'cli.mjs');
var SOURCES = [
  'limits/src',
  'journal/src',
  'core/src',
  'reader/src',
  'store/src',
  'cli/src',
  'ops',
  'demo/src',
  'bench/src',
  'attacks/src',
];

function refuse(words) {
  console.error(words);
  process.exit(1);
}

function nodeFault() {
  var now = process.versions.node.split('.').map(Number);
  if (now[0] > WANTED[0] || (now[0] === WANTED[0] && now[1] >= WANTED[1])) return null;
  return (
    'Calque needs Node.js ' +
    WANTED.join('.') +
    ' or later; the node found first here is ' +
    process.version +
    ' (' +
    process.execPath +
    '). Install a newer one, or put its folder first in PATH, then run this again: the packages are installed anew for it by themselves.'
  );
}

/** Installed packages fit one list of packages, one Node.js and one kind of machine: some hold programs compiled for it. */
function stamp() {
  return (
    crypto.createHash('sha256').update(fs.readFileSync(LOCK)).digest('hex') +
    ' node ' +
    process.versions.node.split('.')[0] +
    ' abi ' +
    process.versions.modules +
    ' ' +
    process.platform +
    ' ' +
    process.arch +
    '\n'
  );
}

function isInstalled() {
  try {
    return fs.readFileSync(STAMP, 'utf8') === stamp();
  } catch (error) {
    return false;
  }
}

function newest(folder) {
  var latest = 0;
  if (!fs.existsSync(folder)) return latest;
  fs.readdirSync(folder, { withFileTypes: true }).forEach(function (entry) {
    var at = path.join(folder, entry.name);
    latest = Math.max(latest, entry.isDirectory() ? newest(at) : fs.statSync(at).mtimeMs);
  });
  return latest;
}

function isBundled() {
  return (
    fs.existsSync(BUNDLED) &&
    fs.statSync(BUNDLED).mtimeMs >=
      Math.max.apply(
        null,
        SOURCES.map(function (s) {
          return newest(path.join(root, s));
        }),
      )
  );
}

/** What belongs to somebody else, so that it cannot be made anew; null where nothing does. */
function notOurs() {
  var bad = ['.', 'node_modules', '.build']
    .map(function (f) {
      return path.join(root, f);
    })
    .filter(function (f) {
      try {
        fs.accessSync(f, fs.constants.W_OK);
        return false;
      } catch (error) {
        return error.code !== 'ENOENT';
      }
    });
  return bad.length > 0 ? bad[0] : null;
}

function mayWrite(what) {
  var place = notOurs();
  if (place === null) return;
  var owner = fs.statSync(root).uid;
  refuse(
    process.getuid() === owner
      ? what +
          ', but ' +
          place +
          ' belongs to another user, perhaps from a start as root. Once, as root: chown -R ' +
          owner +
          ' ' +
          JSON.stringify(root)
      : what +
          ', but this user may not write to ' +
          place +
          '. Whoever owns the folder runs ./calque start once; after that anybody may run it with CALQUE_DATA=FOLDER.',
  );
}

/** Two that begin at once do not install into each other's work. */
function alone(work) {
  var lock = path.join(root, '.calque-installing');
  for (var told = false; ;) {
    try {
      fs.writeFileSync(lock, String(process.pid), { flag: 'wx' });
      break;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
      var holder = 0;
      try {
        holder = Number(fs.readFileSync(lock, 'utf8'));
        if (holder > 0) process.kill(holder, 0);
        // Killed before it could say who it is.
        else if (Date.now() - fs.statSync(lock).mtimeMs > 5000) fs.rmSync(lock, { force: true });
      } catch (gone) {
        if (gone.code === 'ESRCH') fs.rmSync(lock, { force: true });
      }
      if (!told) console.error('Another start is installing; waiting for it …');
      told = true;
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 500);
    }
  }
  try {
    work();
  } finally {
    fs.rmSync(lock, { force: true });
  }
}

function run(program, args) {
  return childProcess.spawnSync(program, args, { cwd: root, stdio: ['ignore', 2, 2] }).status === 0;
}

function installPackages() {
  if (isInstalled()) return;
  if (childProcess.spawnSync('npm', ['--version'], { stdio: 'ignore' }).status !== 0) {
    refuse(
      "Node.js is here, but npm, which comes with it or beside it, is not. Install it (with Debian's own Node.js: apt-get install npm), then run this again.",
    );
  }
  console.error(
    fs.existsSync(STAMP)
      ? 'Installing the packages anew, for this version, this Node.js and this machine …'
      : 'Installing the packages (once; about 800 MB) …',
  );
  fs.rmSync(STAMP, { force: true });
  if (!run('npm', ['ci', '--no-audit', '--no-fund', '--no-progress', '--loglevel=error']))
    refuse(
      'The packages could not be installed; what npm said stands above. When the network or the disk is in order again, run this again: it goes on from here.',
    );
  fs.writeFileSync(STAMP, stamp());
}

function bundle() {
  if (isBundled()) return;
  if (!run(process.execPath, ['ops/bundle.mjs']))
    refuse('The programs could not be bundled; the reason stands above.');
  var now = new Date();
  fs.utimesSync(BUNDLED, now, now);
}

var fault = nodeFault();
if (fault) refuse(fault);
if (!isInstalled() || !isBundled()) {
  mayWrite(isInstalled() ? 'The programs are to be made anew' : 'The packages are to be installed');
  alone(function () {
    installPackages();
    bundle();
  });
}

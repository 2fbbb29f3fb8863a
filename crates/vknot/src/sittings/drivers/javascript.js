(async () => {
  const fs = require("fs");
  const vm = require("vm");
  const mark = "\x1e" + process.env.VKNOT_MARK + " ";
  delete process.env.VKNOT_MARK;
  globalThis.require = require("module").createRequire(process.cwd() + "/");
  const requests = require("readline").createInterface({ input: process.stdin });
  for await (const request of requests) {
    const [path, filename] = request.split("\t");
    let status = 0;
    try {
      await vm.runInThisContext(fs.readFileSync(path, "utf8"), { filename, breakOnSigint: true });
    } catch (error) {
      status = 1;
      console.error(error);
    }
    process.stdout.write(mark + status + "\n");
    process.stderr.write(mark + status + "\n");
  }
})();

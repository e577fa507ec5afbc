// Starts the browser that the checks share, and gathers what goes wrong.
import { createRequire } from "node:module";
import path from "node:path";
import process from "node:process";

export const require = createRequire(path.resolve("target/checkers/package.json"));
const puppeteer = require("puppeteer-core");

export async function browser(chromium) {
  return puppeteer.launch({
    executablePath: chromium,
    headless: true,
    args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--allow-file-access-from-files=false"],
  });
}

const wrong = [];

export function check(holds, what) {
  if (!holds) {
    wrong.push(what);
    console.error(`wrong: ${what}`);
  }
}

export function finish(what) {
  if (wrong.length) {
    console.error(`${wrong.length} things are wrong`);
    process.exit(1);
  }
  console.log(what);
}

// How long something may take on a busy machine, and how often it is looked at.
const PATIENCE = 15000;
const PAUSE = 50;

// Waits until something holds. While a frame is on its way from one page to the next a look at it may fail:
// that is no answer yet.
export async function until(page, test, ...values) {
  const end = Date.now() + PATIENCE;
  for (;;) {
    const holds = await page.evaluate(test, ...values).catch(() => false);
    if (holds || Date.now() > end) return Boolean(holds);
    await new Promise((done) => setTimeout(done, PAUSE));
  }
}

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

// Waits until something holds; the last look decides.
export async function until(page, test, ...values) {
  await page.waitForFunction(test, { timeout: 15000 }, ...values).catch(() => {});
  return page.evaluate(test, ...values);
}

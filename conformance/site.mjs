// Opens every page of a published folder from the disk, as a reader would:
//
//   node conformance/site.mjs CHROMIUM FOLDER [WORD]
//
// No violation of serious or critical rank (axe-core), light and dark; nothing wider than a screen of
// 360 pixels; no request to anywhere else; readable without JavaScript; and the search box finds WORD.
import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import process from "node:process";
import { pathToFileURL } from "node:url";
import { browser, check, finish, require } from "./browser.mjs";

const [chromium, folder, word] = process.argv.slice(2);
const axe = readFileSync(require.resolve("axe-core/axe.min.js"), "utf8");
const pages = readdirSync(folder, { recursive: true }).filter((name) => name.endsWith(".html")).sort();
const open = await browser(chromium);
const page = await open.newPage();
const outside = [];
page.on("request", (request) => {
  if (!/^(file|data|about):/.test(request.url())) outside.push(request.url());
});

async function violations() {
  await page.evaluate(axe);
  const result = await page.evaluate(() => window.axe.run(document, { resultTypes: ["violations"] }));
  return result.violations.filter((found) => ["serious", "critical"].includes(found.impact));
}

for (const name of pages) {
  const address = pathToFileURL(path.resolve(folder, name)).href;
  await page.setJavaScriptEnabled(true);
  for (const scheme of ["light", "dark"]) {
    await page.emulateMediaFeatures([{ name: "prefers-color-scheme", value: scheme }]);
    await page.setViewport({ width: 1280, height: 800 });
    await page.goto(address, { waitUntil: "load" });
    if (await page.$("meta[http-equiv='refresh']")) continue;
    for (const found of await violations()) {
      const where = found.nodes.map((node) => node.target.join(" ")).slice(0, 3).join("; ");
      check(false, `${name} (${scheme}): ${found.id}: ${found.help}: ${where}`);
    }
  }
  await page.setViewport({ width: 360, height: 740 });
  await page.goto(address, { waitUntil: "load" });
  const width = await page.evaluate(() => document.documentElement.scrollWidth);
  check(width <= 360, `${name} is ${width} pixels wide on a screen of 360`);
  await page.setJavaScriptEnabled(false);
  await page.goto(address, { waitUntil: "load" });
  const [text, search] = await Promise.all([
    page.$eval("main", (main) => main.textContent.trim().length).catch(() => 0),
    page.$("form.search:not([hidden])"),
  ]);
  check(text > 0, `${name} has no text without JavaScript`);
  check(!search, `${name} shows a search box that does nothing without JavaScript`);
}

if (word) {
  await page.setJavaScriptEnabled(true);
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(pathToFileURL(path.resolve(folder, "index.html")).href, { waitUntil: "load" });
  await page.type("form.search input", word);
  const found = await page.waitForSelector(".found a", { timeout: 10000 }).catch(() => null);
  check(found, `searching for ${word} finds nothing`);
  if (found) {
    await Promise.all([page.waitForNavigation(), found.click()]);
    const text = await page.$eval("main", (main) => main.textContent.toLowerCase());
    check(text.includes(word.toLowerCase()), `what was found for ${word} does not hold it: ${page.url()}`);
  }
  await page.goto(pathToFileURL(path.resolve(folder, "index.html")).href, { waitUntil: "load" });
  await page.type("form.search input", "xyzzyx");
  await page.waitForSelector(".found p", { timeout: 10000 }).catch(() => null);
  check(await page.$(".found p"), "a search without a result says nothing");
}
check(outside.length === 0, `requests to elsewhere: ${outside.slice(0, 5).join(", ")}`);
await open.close();
finish(`${pages.length} pages opened from the disk: light, dark, narrow, without JavaScript`);

// Works with the preview as an editor would:
//
//   node conformance/preview.mjs OBBLET CHROMIUM FOLDER
//
// FOLDER is a copy of the demo that may be changed.
import { spawn } from "node:child_process";
import { appendFileSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import process from "node:process";
import { browser, check, finish, require, until } from "./browser.mjs";

const [obblet, chromium, folder] = process.argv.slice(2);
const axe = readFileSync(require.resolve("axe-core/axe.min.js"), "utf8");
const server = spawn(obblet, ["preview", folder], { stdio: ["ignore", "ignore", "pipe"] });
const address = await new Promise((done) => {
  let talk = "";
  server.stderr.on("data", (piece) => {
    talk += piece;
    const found = talk.match(/http:\/\/127\.0\.0\.1:\d+\//);
    if (found) done(found[0]);
  });
});

const open = await browser(chromium);
await open.defaultBrowserContext().overridePermissions(new URL(address).origin, ["clipboard-read", "clipboard-write", "clipboard-sanitized-write"]);
const page = await open.newPage();
await page.setViewport({ width: 1280, height: 800 });
const outside = [];
page.on("request", (request) => {
  if (!request.url().startsWith(address) && !/^(data|about|blob):/.test(request.url())) outside.push(request.url());
});
page.on("pageerror", (error) => check(false, `script: ${error.message}`));

const shows = (text) => until(page, (text) => {
  const inner = document.getElementById("page").contentDocument;
  return Boolean(inner && inner.body && inner.body.textContent.includes(text));
}, text);
const choose = (id, value) => page.select(`#${id}`, value);

await page.goto(address, { waitUntil: "load" });
check(await shows("High water at Marrowby"), "the first document is shown");
await choose("document", "visitor-guide.html");
check(await shows("has ground corn by the moon"), "the chosen document is shown");
check(await until(page, () => {
  const inner = document.getElementById("page").contentDocument;
  const pictures = inner ? [...inner.images] : [];
  return pictures.length > 0 && pictures[0].complete && pictures[0].naturalWidth > 0;
}), "its picture is shown");

// A change is seen without doing anything.
const guide = path.join(folder, "visitor-guide.md");
appendFileSync(guide, "\nThe pond is **full** today. [gone](gone.md)\n");
check(await shows("The pond is full today."), "a change is shown");
check(await until(page, () => document.getElementById("findings").textContent.includes("gone.md")), "its finding is shown");

// A finding leads to its place in the source.
await page.evaluate(() => {
  const buttons = [...document.querySelectorAll("#findings button")];
  buttons.find((button) => button.textContent.includes("gone.md"))?.click();
});
const lines = readFileSync(guide, "utf8").split("\n");
const wanted = lines.findIndex((line) => line.includes("gone.md"));
check(await until(page, (wanted) => {
  const row = document.getElementById("source").children[wanted];
  return Boolean(row) && row.className === "marked";
}, wanted), "a finding leads to its line");

await page.click("[data-view=html]");
check(await until(page, () => document.querySelector("#plain pre").textContent.startsWith("<!DOCTYPE html>")), "the HTML is shown");
await page.click(".copy");
await until(page, () => document.querySelector(".copy").textContent === "Copied");
const copied = await page.evaluate(() => navigator.clipboard.readText());
check(copied.startsWith("<!DOCTYPE html>"), "the HTML is copied");
await page.click("[data-view=text]");
check(await until(page, () => /ground corn/.test(document.querySelector("#plain pre").textContent)), "the text is shown");
await page.click("[data-view=page]");

// Another house: fewer elements, characters counted against its limit.
await choose("house", "listing");
check(await until(page, () => /of 2,000 characters/.test(document.getElementById("length").textContent)), "the limit is shown");
check(await until(page, () => {
  const inner = document.getElementById("page").contentDocument;
  return Boolean(inner && inner.body) && !inner.querySelector("h2, table, strong");
}), "the other house is shown");
// One chosen right behind another: answers may come in any order, and the last choice is shown.
const isShown = (house) => until(page, (house) => {
  const inner = document.getElementById("page").contentWindow;
  const body = inner.document.body;
  return inner.location.pathname.startsWith(`/page/${house}/visitor-guide`) && Boolean(body) && /ground corn/.test(body.textContent);
}, house);
for (const house of ["text", "own", "text", "listing", "text", "own"]) await choose("house", house);
check(await isShown("own"), "of houses chosen in a row the last is shown");
await choose("house", "text");
check(await isShown("text"), "plain text is shown");
await choose("house", "own");
check(await shows("The pond is full today."), "the house that was chosen first is shown again");

// A page that did not arrive leaves a fault of the browser in the frame; the next choice is shown all the same.
// Why there are no documents in a house is told.
const withFaults = (request) => {
  if (request.url().includes("/page/text/")) return request.abort("connectionreset");
  if (request.url().includes("/documents/listing/")) return request.respond({ status: 500, body: "the sluice is shut" });
  return request.continue();
};
page.on("request", withFaults);
await page.setRequestInterception(true);
await choose("house", "text");
check(await until(page, () => document.getElementById("page").contentDocument === null), "a page does not arrive");
await choose("house", "own");
check(await shows("The pond is full today."), "behind a fault of the browser the next page is shown");
await choose("house", "listing");
check(await until(page, () => document.getElementById("findings").textContent.includes("the sluice is shut")), "a house without documents is told");
await choose("house", "own");
check(await until(page, () => document.getElementById("findings").textContent.includes("gone.md")), "findings are shown again");
await page.setRequestInterception(false);
page.off("request", withFaults);

// A link inside the page leads on, and the frame follows.
const leadsOn = () => {
  const inner = document.getElementById("page").contentDocument;
  return Boolean(inner) && [...inner.querySelectorAll("a")].some((one) => /high-water/.test(one.href));
};
check(await until(page, leadsOn), "there is a link to follow");
await page.evaluate(() => {
  const inner = document.getElementById("page").contentDocument;
  [...inner.querySelectorAll("a")].find((link) => /high-water/.test(link.href)).click();
});
check(await until(page, () => document.getElementById("document").value === "high-water.html"), "the frame follows a link");

// Word has pictures of its own.
await choose("document", "volunteers/handbook.html");
check(await until(page, () => {
  const inner = document.getElementById("page").contentDocument;
  return Boolean(inner) && [...inner.images].some((image) => image.complete && image.naturalWidth > 0);
}), "the pictures of a Word file are shown");

// A new document can be chosen; a house file can too.
writeFileSync(path.join(folder, "zz-new.md"), "# Brand new\n");
writeFileSync(path.join(folder, "plain-house.toml"), 'like = "body"\n');
check(await until(page, () => [...document.getElementById("document").options].some((one) => one.value === "zz-new.html")), "a new document can be chosen");
check(await until(page, () => [...document.getElementById("house").options].some((one) => one.value === "plain-house.toml")), "a house file can be chosen");

await page.evaluate(axe);
const result = await page.evaluate(() => window.axe.run(document, { resultTypes: ["violations"] }));
for (const found of result.violations.filter((found) => ["serious", "critical"].includes(found.impact))) {
  check(false, `the frame: ${found.id}: ${found.nodes.map((node) => node.target.join(" ")).slice(0, 3).join("; ")}`);
}
check(outside.length === 0, `requests to elsewhere: ${outside.slice(0, 5).join(", ")}`);
await open.close();
server.kill("SIGINT");
const code = await new Promise((done) => server.on("exit", done));
check(code === 0, `the preview ended with ${code}`);
finish("the preview works");

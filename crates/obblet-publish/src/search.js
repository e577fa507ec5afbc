// The search box of a web folder. Everything stays in the browser; it works from a disk too.
(function () {
  "use strict";
  var script = document.currentScript;
  var home = script.src.slice(0, script.src.lastIndexOf("/") + 1);
  var pages = null;
  var words = {};
  var asked = {};

  window.obbletPages = function (list) { pages = list; };
  window.obbletWords = function (list) { Object.assign(words, list); };

  // Scripts can be loaded where nothing else can: on pages that come from a disk.
  function load(name) {
    asked[name] = asked[name] || new Promise(function (done) {
      var element = document.createElement("script");
      element.src = home + "search/" + name + ".js";
      // A letter that no word begins with has no file.
      element.onload = element.onerror = done;
      document.head.append(element);
    });
    return asked[name];
  }

  function shard(word) {
    var code = word.codePointAt(0);
    return /^[a-z0-9]/.test(word) ? "w-" + word[0] : "w-u" + (code >> 5).toString(16);
  }

  function asked_words(text) {
    return text.toLowerCase().match(/[\u3040-\u30ff\u3400-\u4dbf\u4e00-\u9fff\uf900-\ufaff]|[\p{L}\p{N}]+/gu) || [];
  }

  // How well each page fits a word: the beginning of a word counts, the whole word more.
  function fits(word) {
    var found = new Map();
    Object.keys(words).forEach(function (known) {
      if (!known.startsWith(word)) { return; }
      var page = 0;
      words[known].split(" ").forEach(function (step) {
        page += parseInt(step, 36);
        found.set(page, Math.max(found.get(page) || 0, known === word ? 2 : 1));
      });
    });
    pages.forEach(function (page, number) {
      if (asked_words(page[0]).some(function (part) { return part.startsWith(word); })) {
        found.set(number, (found.get(number) || 0) + 4);
      }
    });
    return found;
  }

  function best(text) {
    var all = asked_words(text).map(fits);
    if (!all.length) { return []; }
    var result = [];
    all[0].forEach(function (_, page) {
      if (all.every(function (found) { return found.has(page); })) {
        var worth = all.reduce(function (sum, found) { return sum + found.get(page); }, 0);
        result.push([worth, page]);
      }
    });
    result.sort(function (one, two) { return two[0] - one[0] || one[1] - two[1]; });
    return result.slice(0, 12).map(function (entry) { return pages[entry[1]]; });
  }

  function show(box, input) {
    var text = input.value;
    var names = asked_words(text).map(shard);
    Promise.all(["pages"].concat(names).map(load)).then(function () {
      // Somebody may have typed on meanwhile.
      if (input.value !== text || !pages) { return; }
      var found = best(text);
      var lines = found.map(function (page) {
        var link = document.createElement("a");
        link.href = home + page[1].split("/").map(encodeURIComponent).join("/");
        link.textContent = page[0];
        if (page[2]) {
          var about = document.createElement("small");
          about.textContent = page[2];
          link.append(about);
        }
        return link;
      });
      if (!lines.length && text.trim()) {
        var nothing = document.createElement("p");
        nothing.textContent = input.dataset.nothing;
        lines.push(nothing);
      }
      box.replaceChildren.apply(box, lines);
    });
  }

  document.querySelectorAll("form.search").forEach(function (form) {
    var input = form.querySelector("input");
    var box = form.querySelector(".found");
    form.hidden = false;
    form.addEventListener("submit", function (event) {
      event.preventDefault();
      var first = box.querySelector("a");
      if (first) { first.click(); }
    });
    input.addEventListener("focus", function () { load("pages"); });
    input.addEventListener("input", function () { show(box, input); });
    form.addEventListener("keydown", function (event) {
      if (event.key === "Escape") {
        input.value = "";
        box.replaceChildren();
        input.focus();
      }
    });
  });
})();

// The frame of the preview: chooses documents, houses and views, and shows everything anew when
// something has changed.
(function () {
  "use strict";
  var at = { house: "own", target: "", view: "page" };
  var facts = null;
  var el = function (id) { return document.getElementById(id); };
  var frame = el("page");

  function ask(path) {
    return fetch(path).then(function (answer) {
      return answer.ok ? answer.json() : answer.text().then(function (why) { throw new Error(why); });
    });
  }

  function encoded(path) { return path.split("/").map(encodeURIComponent).join("/"); }
  function address(what) { return "/" + what + "/" + encodeURIComponent(at.house) + "/" + encoded(at.target); }

  // What is looked at stands in the address, so that a browser's own way back works.
  var remembered = "";
  function remember() {
    location.hash = [at.house, at.view, at.target].map(encodeURIComponent).join("/");
    remembered = location.hash;
  }

  function recall() {
    var parts = location.hash.slice(1).split("/").map(decodeURIComponent);
    if (parts.length === 3) { at.house = parts[0]; at.view = parts[1]; at.target = parts[2]; }
  }

  function options(select, list, chosen) {
    select.replaceChildren.apply(select, list.map(function (entry) {
      return new Option(entry[1], entry[0], false, entry[0] === chosen);
    }));
  }

  // Gives whether nothing else was asked for meanwhile: an answer that comes late is about another house.
  var asked = 0;
  function documents() {
    var turn = asked += 1;
    return ask("/documents/" + encodeURIComponent(at.house) + "/").then(function (list) {
      if (turn !== asked) { return false; }
      var targets = list.map(function (entry) { return entry.target; });
      if (targets.indexOf(at.target) < 0) {
        // The same document has another name in another house.
        var same = facts && list.find(function (entry) { return entry.source === facts.source; });
        at.target = same ? same.target : targets[0] || "";
      }
      options(el("document"), list.map(function (entry) { return [entry.target, entry.source]; }), at.target);
      return true;
    }).catch(function (error) {
      if (turn === asked) { tell(error); }
      return false;
    });
  }

  function show(isCurrent) {
    if (!at.target || isCurrent === false) { return Promise.resolve(); }
    var wanted = address("facts");
    return ask(wanted).then(function (found) {
      if (wanted !== address("facts")) { return; }
      facts = found;
      document.title = found.title + " · Preview";
      load();
      views();
      findings(found.findings);
      length(found);
    }).catch(function (error) {
      if (wanted !== address("facts")) { return; }
      facts = null;
      tell(error);
    });
  }

  function tell(error) {
    findings([{ kind: "problem", message: error.message, code: "", line: 0 }]);
  }

  // The path of the page that is shown; none while the browser shows a fault of its own, which nobody may look into.
  function shownPath() {
    try { return frame.contentWindow.location.pathname; } catch (error) { return ""; }
  }

  // The page keeps its place when it is shown anew.
  function load() {
    var wanted = address("page");
    var before = shownPath() === wanted ? frame.contentWindow.scrollY : 0;
    frame.onload = function () {
      if (!shownPath()) { return; }
      frame.contentWindow.scrollTo(0, before);
      follow();
    };
    frame.src = wanted + "?" + Date.now();
  }

  // A link inside the page leads on to another document: the frame follows.
  function follow() {
    var inner = shownPath().split("/").map(decodeURIComponent);
    var target = inner.slice(3).join("/");
    var isOther = inner[1] === "page" && inner[2] === at.house && target && target !== at.target;
    if (!isOther) { return; }
    at.target = target;
    el("document").value = target;
    remember();
    ask(address("facts")).then(function (found) {
      facts = found;
      views();
      findings(found.findings);
      length(found);
    }).catch(function () {});
  }

  function views() {
    document.querySelectorAll("[data-view]").forEach(function (button) {
      button.setAttribute("aria-pressed", String(button.dataset.view === at.view));
    });
    var isText = at.view === "text" || at.view === "html";
    frame.hidden = isText;
    el("source").hidden = at.view !== "beside";
    el("plain").hidden = !isText;
    if (isText) { el("plain").querySelector("pre").textContent = at.view === "text" ? facts.plain : facts.written; }
    if (at.view === "beside") { source(); }
  }

  function source() {
    var lines = facts.text.split("\n");
    if (!facts.text) {
      var note = document.createElement("p");
      note.textContent = "This source is no text. Lines of findings count its paragraphs.";
      el("source").replaceChildren(note);
      return;
    }
    el("source").replaceChildren.apply(el("source"), lines.map(function (line) {
      var row = document.createElement("div");
      row.textContent = line;
      return row;
    }));
  }

  function findings(list) {
    el("findings-title").textContent = list.length ? "Findings (" + list.length + ")" : "Nothing to say: everything was carried";
    el("findings").replaceChildren.apply(el("findings"), list.map(function (finding) {
      var item = document.createElement("li");
      var button = document.createElement("button");
      button.type = "button";
      var word = document.createElement("b");
      word.className = finding.kind;
      word.textContent = finding.kind;
      button.append(word, " " + finding.message);
      var where = document.createElement("small");
      where.textContent = [finding.file, finding.line && "line " + finding.line, finding.code].filter(Boolean).join(" · ");
      button.append(where);
      button.addEventListener("click", function () { mark(finding); });
      item.append(button);
      return item;
    }));
  }

  function mark(finding) {
    at.view = "beside";
    remember();
    views();
    var row = el("source").children[finding.line - 1];
    if (row && !finding.file && facts.text) {
      row.className = "marked";
      row.scrollIntoView({ block: "center" });
    }
  }

  function length(found) {
    var shown = found.length.toLocaleString("en");
    var isOver = found.most > 0 && found.length > found.most;
    el("length").textContent = found.most > 0 ? shown + " of " + found.most.toLocaleString("en") + " characters" : shown + " characters";
    el("length").className = isOver ? "over" : "";
  }

  function watch(seen) {
    ask("/changes" + (seen === null ? "" : "?seen=" + seen)).then(function (now) {
      var next = function () { watch(now); };
      if (seen === null || now === seen) { next(); return; }
      ask("/houses").then(houses).then(documents).then(show).then(next, next);
    }).catch(function () {
      // The server is gone; it may come back.
      setTimeout(function () { watch(null); }, 2000);
    });
  }

  function houses(list) {
    options(el("house"), list.map(function (name) { return [name, name === "own" ? "as chosen" : name]; }), at.house);
  }

  el("document").addEventListener("change", function () { at.target = this.value; remember(); show(); });
  el("house").addEventListener("change", function () {
    at.house = this.value;
    documents().then(function (isCurrent) {
      if (isCurrent) { remember(); }
      return show(isCurrent);
    });
  });
  document.querySelectorAll("[data-view]").forEach(function (button) {
    button.addEventListener("click", function () { at.view = button.dataset.view; remember(); if (facts) { views(); } });
  });
  // Where the browser does not let pages write to the clipboard, the text is at least marked.
  function copy(element) {
    return navigator.clipboard.writeText(element.textContent).catch(function () {
      getSelection().selectAllChildren(element);
      if (!document.execCommand("copy")) { throw new Error(); }
    });
  }

  document.querySelector(".copy").addEventListener("click", function () {
    var button = this;
    copy(el("plain").querySelector("pre")).then(
      function () { button.textContent = "Copied"; },
      function () { button.textContent = "Press Ctrl-C"; }
    ).then(function () {
      setTimeout(function () { button.textContent = "Copy"; }, 1500);
    });
  });
  window.addEventListener("hashchange", function () {
    if (location.hash === remembered) { return; }
    remembered = location.hash;
    var before = JSON.stringify(at);
    recall();
    if (JSON.stringify(at) !== before) { documents().then(show); }
  });

  recall();
  ask("/houses").then(houses).then(documents).then(show).then(function () { watch(null); });
})();

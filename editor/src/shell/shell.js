// What every screen of the application does.
import "./composing.js";
import "./fresh.js";
import "./goto.js";
import "./keys.js";
import "./menus.js";

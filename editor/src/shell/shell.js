// What every screen of the application does.
import "./ownkeys.js"; // before whatever else listens to keys
import "./composing.js";
import "./device.js";
import "./fresh.js";
import "./goto.js";
import "./keys.js";
import "./menus.js";

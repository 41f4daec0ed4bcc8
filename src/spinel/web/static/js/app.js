// Small behaviour only: the server renders every page, and every page works without these files.
import "./adrift.js";
import "./card.js";
import "./clock.js";
import "./drafts.js";
import "./forget.js";
import "./keys.js";
import "./once.js";

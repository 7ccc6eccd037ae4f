// What every page does by itself: its keys, and telling when nothing answers.
import { attachAnswers } from "./answers.js";
import { attachKeys } from "./keys.js";

attachAnswers();
attachKeys();

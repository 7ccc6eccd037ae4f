// What every page does by itself: its keys, telling when nothing answers, signing in again.
import { attachAnswers } from "./answers.js";
import { attachKeys } from "./keys.js";
import { attachSignInAgain } from "./sign_in_again.js";

attachAnswers();
attachKeys();
attachSignInAgain();

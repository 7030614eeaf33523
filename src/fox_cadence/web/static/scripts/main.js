// Starts the page: registers the components, then Alpine takes over.

import { batch } from "./batch.js";
import { newProject } from "./new_project.js";
import { piece } from "./piece.js";
import { projectsList } from "./projects_list.js";
import { setUpTheme } from "./theme.js";
import { versions } from "./versions.js";

document.addEventListener("alpine:init", () => {
  Alpine.data("batch", batch);
  Alpine.data("piece", piece);
  Alpine.data("newProject", newProject);
  Alpine.data("projectsList", projectsList);
  Alpine.data("versions", versions);
});
setUpTheme();

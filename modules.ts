// The modules of the app and the arrows between them: which folder may import which. `npm run modules` holds the code against it, and so does `npm test`.
// A module not named here is an error: say where a new one is before anything is put into it.

/** What each module may import, lowest module first. A name ending in "/" represents all modules under it. */
export const MODULES: Readonly<Record<string, readonly string[]>> = {
  "core/kernel": [],
  "core/numerics": ["core/kernel"],
  "core/materials": ["core/kernel", "core/numerics", "core/units"],
  "core/units": ["core/kernel", "core/materials"],
  "core/physics/heat": ["core/kernel", "core/numerics", "core/units", "core/materials"],
  "core/physics/cut": ["core/kernel", "core/numerics", "core/units", "core/materials", "core/physics/heat"],
  "core/physics/mechanics": ["core/kernel", "core/numerics", "core/units", "core/materials", "core/physics/heat", "core/physics/cut"],
  /** The wire between two led ends, and the face it leaves. */
  "core/physics/string": ["core/kernel", "core/numerics", "core/units", "core/materials", "core/geometry", "core/physics/heat", "core/physics/cut"],
  "core/physics/power": ["core/kernel", "core/numerics", "core/units", "core/materials", "core/physics/heat", "core/physics/cut"],
  "core/cutters/design": ["core/kernel", "core/numerics", "core/units", "core/materials", "core/physics/"],
  "core/cutters/solve": ["core/kernel", "core/numerics", "core/units", "core/materials", "core/physics/", "core/cutters/design"],
  "core/cutters/search": ["core/kernel", "core/numerics", "core/units", "core/materials", "core/physics/", "core/cutters/design", "core/cutters/solve"],
  "core/drawer": ["core/kernel", "core/numerics", "core/units", "core/materials", "core/physics/", "core/cutters/"],
  "core/sheets": ["core/kernel", "core/numerics", "core/units", "core/materials", "core/physics/", "core/cutters/", "core/drawer"],
  "core/log": ["core/kernel", "core/units", "core/materials", "core/physics/", "core/cutters/"],
  "core/calibration": ["core/kernel", "core/numerics", "core/units", "core/materials", "core/physics/", "core/cutters/", "core/log"],
  "core/diagnosis": ["core/kernel", "core/units", "core/physics/", "core/cutters/", "core/sheets", "core/log", "core/calibration"],
  "core/geometry": ["core/kernel"],
  "core/plans": ["core/kernel", "core/geometry", "core/numerics", "core/units", "core/materials", "core/physics/", "core/cutters/", "core/drawer", "core/log"],
  /** Ways of moving wire against foam that people build for themselves. */
  "core/rigs": [
    "core/kernel",
    "core/geometry",
    "core/units",
    "core/materials",
    "core/physics/",
    "core/cutters/",
    "core/log",
    "core/plans",
    "core/pace",
    "core/motion",
  ],
  /** What a motorised frame does automatically: paths, programs, steps. */
  "core/motion": ["core/kernel", "core/geometry", "core/units"],
  /** How fast a part may be led round. */
  "core/pace": [
    "core/kernel",
    "core/geometry",
    "core/numerics",
    "core/units",
    "core/materials",
    "core/physics/",
    "core/cutters/",
    "core/sheets",
    "core/log",
    "core/plans",
  ],
  "core/tuner": ["core/kernel", "core/units", "core/materials", "core/physics/"],
  "core/devices": ["core/tuner"],
  "core/bench": ["core/kernel", "core/numerics", "core/units", "core/materials", "core/physics/", "core/cutters/", "core/log", "core/devices"],
  "core/start": ["core/kernel", "core/units", "core/materials", "core/physics/", "core/cutters/", "core/drawer"],
  "core/workshop": ["core/kernel"],
  /** The kinds of document, each with everything that is derived of it. */
  "core/documents": ["core/kernel", "core/cutters/", "core/plans", "core/rigs"],
  /** The one place that joins the core's modules: every formula that "why?" can show. */
  core: ["core/"],
  workers: ["core/"],
  /** Requests and responses of the HTTP API, each kind once: parsed by the server and by the page. */
  "contract/kernel": ["core/kernel"],
  /** The endpoints that every kind of document has. */
  "contract/documents": ["contract/kernel"],
  "contract/cutters": ["core/", "contract/kernel", "contract/documents"],
  "contract/plans": ["core/", "contract/kernel", "contract/documents"],
  "contract/rigs": ["core/", "contract/kernel", "contract/documents"],
  "contract/drawer": ["core/", "contract/kernel"],
  "contract/log": ["core/", "contract/kernel"],
  "contract/backups": ["core/kernel", "core/workshop", "contract/kernel"],
  "contract/instruments": ["contract/kernel"],
  "contract/changes": ["core/kernel"],
  "contract/health": ["contract/kernel"],
  "contract/second": ["contract/kernel", "contract/instruments"],
  "contract/access": ["core/workshop", "contract/kernel"],
  "contract/run": ["core/motion", "contract/kernel"],
  "server/kernel": ["core/", "contract/kernel"],
  "server/features/workshop": ["core/", "server/kernel"],
  "server/features/drawer": ["core/", "contract/", "server/kernel"],
  "server/features/cutters": ["core/", "contract/", "server/kernel", "server/features/drawer"],
  "server/features/log": ["core/", "contract/", "server/kernel", "server/features/cutters", "server/features/drawer"],
  "server/features/sheets": ["core/", "contract/", "server/kernel", "server/features/cutters", "server/features/drawer"],
  "server/features/plans": ["core/", "contract/", "server/kernel", "server/features/cutters"],
  "server/features/rigs": ["core/", "contract/", "server/kernel", "server/features/cutters", "server/features/plans"],
  /** One set of routes for all kinds of document. */
  "server/features/documents": ["core/kernel", "contract/", "server/kernel", "server/features/cutters", "server/features/plans", "server/features/rigs"],
  "server/features/backups": ["core/", "contract/", "server/kernel", "server/features/workshop", "server/features/cutters", "server/features/drawer"],
  "server/features/demo": [
    "core/",
    "server/kernel",
    "server/features/workshop",
    "server/features/plans",
    "server/features/rigs",
    "server/features/cutters",
    "server/features/drawer",
    "server/features/log",
  ],
  "server/features/instruments": ["core/", "contract/", "server/kernel"],
  /** Who may come in. */
  "server/features/access": ["contract/", "server/kernel"],
  /** Changes, sent to open pages. */
  "server/features/changes": ["core/kernel", "contract/", "server/kernel"],
  /** The one controller of the app, and the run it is at. */
  "server/features/run": [
    "core/",
    "contract/",
    "server/kernel",
    "server/features/instruments",
    "server/features/backups",
    "server/features/log",
    "server/features/rigs",
  ],
  /** How the app is doing. */
  "server/features/health": ["core/kernel", "contract/", "server/kernel", "server/features/backups"],
  /** What is on a second screen, at the other end of the wire. */
  "server/features/second": ["core/", "contract/", "server/kernel", "server/features/changes", "server/features/instruments", "server/features/run"],
  /** Entry files of the server's worker threads. */
  "server/threads": [
    "core/",
    "contract/",
    "server/kernel",
    "server/features/backups",
    "server/features/run",
    "server/features/plans",
    "server/features/rigs",
    "server/features/sheets",
  ],
  server: ["core/", "server/"],
  "ui/kit": ["core/", "contract/", "workers"],
  "ui/cutter": ["core/", "workers", "ui/kit"],
  "ui/features/setups": ["core/", "workers", "ui/kit", "ui/cutter"],
  "ui/features/bench": ["core/", "workers", "ui/kit", "ui/cutter", "ui/features/second"],
  "ui/features/tension": ["core/", "workers", "ui/kit", "ui/cutter"],
  "ui/features/log": ["core/", "workers", "ui/kit", "ui/cutter", "ui/features/second"],
  "ui/features/sheets": ["core/", "ui/kit", "ui/cutter"],
  "ui/features/desk": [
    "core/",
    "workers",
    "ui/kit",
    "ui/cutter",
    "ui/features/setups",
    "ui/features/bench",
    "ui/features/tension",
    "ui/features/log",
    "ui/features/sheets",
  ],
  "ui/features/list": ["core/", "ui/kit", "ui/cutter"],
  "ui/features/compare": ["core/", "ui/kit", "ui/cutter"],
  "ui/features/matches": ["core/", "workers", "ui/kit", "ui/cutter"],
  "ui/features/drawer": ["core/", "ui/kit", "ui/cutter"],
  "ui/features/backups": ["core/", "ui/kit"],
  "ui/features/access": ["core/", "ui/kit"],
  "ui/features/plans": ["core/", "workers", "ui/kit", "ui/cutter", "ui/features/second"],
  "ui/features/rigs": ["core/", "workers", "ui/kit", "ui/cutter", "ui/features/second"],
  "ui/features/second": ["core/", "contract/second", "ui/kit"],
  /** What still works without the server. */
  "ui/features/offline": ["core/", "ui/kit", "ui/features/log", "ui/features/second"],
  "ui/features/start": ["core/", "workers", "ui/kit", "ui/cutter"],
  cli: ["core/", "server/"],
  /** Pages and routes put modules on show and hold nothing themselves. */
  app: ["core/", "server/", "server", "ui/"],
  /** The framework's own two entry files. */
  "": ["server", "server/"],
};

/** Packages that only some modules may know: the core stays free of interface, server and Node. */
export const PACKAGES: Readonly<Record<string, string>> = {
  "core/": "^(react|react-dom|next|@mui/|@emotion/|chart\\.js|drizzle-orm|@electric-sql/)",
  "ui/": "^(drizzle-orm|@electric-sql/)",
  workers: "^(react|react-dom|next|@mui/|drizzle-orm|@electric-sql/)",
};

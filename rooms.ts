// The rooms of the house and the arrows between them: which folder may import which. `npm run rooms` holds the code against it, and so does `npm test`.
// A room not named here is an error: say where a new one stands before anything is put into it.

/** What each room may import beside itself, lowest room first. A name ending in "/" stands for all rooms under it. */
export const ROOMS: Readonly<Record<string, readonly string[]>> = {
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
  /** What a motorised frame does by itself: paths, programs, steps. */
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
  /** The one place that joins the core's rooms: every formula that "why?" tells of. */
  core: ["core/"],
  workers: ["core/"],
  /** What crosses the door, each kind once: parsed by the server and by the page. */
  "contract/kernel": ["core/kernel"],
  /** The endpoints that every kind of document has. */
  "contract/documents": ["contract/kernel"],
  "contract/cutters": ["core/", "contract/kernel", "contract/documents"],
  "contract/plans": ["core/", "contract/kernel", "contract/documents"],
  "contract/rigs": ["core/", "contract/kernel", "contract/documents"],
  "contract/drawer": ["core/", "contract/kernel"],
  "contract/log": ["core/", "contract/kernel"],
  "contract/keeping": ["core/kernel", "core/workshop", "contract/kernel"],
  "contract/instruments": ["contract/kernel"],
  "contract/changes": ["core/kernel"],
  "contract/health": ["contract/kernel"],
  "contract/second": ["contract/kernel", "contract/instruments"],
  "contract/access": ["core/workshop", "contract/kernel"],
  "contract/run": ["core/motion", "contract/kernel"],
  "server/kernel": ["core/", "contract/kernel"],
  "server/rooms/workshop": ["core/", "server/kernel"],
  "server/rooms/drawer": ["core/", "contract/", "server/kernel"],
  "server/rooms/cutters": ["core/", "contract/", "server/kernel", "server/rooms/drawer"],
  "server/rooms/log": ["core/", "contract/", "server/kernel", "server/rooms/cutters", "server/rooms/drawer"],
  "server/rooms/sheets": ["core/", "contract/", "server/kernel", "server/rooms/cutters", "server/rooms/drawer"],
  "server/rooms/plans": ["core/", "contract/", "server/kernel", "server/rooms/cutters"],
  "server/rooms/rigs": ["core/", "contract/", "server/kernel", "server/rooms/cutters", "server/rooms/plans"],
  /** One set of routes for all kinds of document. */
  "server/rooms/documents": ["core/kernel", "contract/", "server/kernel", "server/rooms/cutters", "server/rooms/plans", "server/rooms/rigs"],
  "server/rooms/keeping": ["core/", "contract/", "server/kernel", "server/rooms/workshop", "server/rooms/cutters", "server/rooms/drawer"],
  "server/rooms/demo": [
    "core/",
    "server/kernel",
    "server/rooms/workshop",
    "server/rooms/plans",
    "server/rooms/rigs",
    "server/rooms/cutters",
    "server/rooms/drawer",
    "server/rooms/log",
  ],
  "server/rooms/instruments": ["core/", "contract/", "server/kernel"],
  /** Who may come in. */
  "server/rooms/access": ["contract/", "server/kernel"],
  /** What was changed, told to open pages. */
  "server/rooms/changes": ["core/kernel", "contract/", "server/kernel"],
  /** The one controller of the house, and the run it is at. */
  "server/rooms/run": ["core/", "contract/", "server/kernel", "server/rooms/instruments", "server/rooms/keeping", "server/rooms/log", "server/rooms/rigs"],
  /** How the house stands. */
  "server/rooms/health": ["core/kernel", "contract/", "server/kernel", "server/rooms/keeping"],
  /** What stands on a second screen, at the other end of the wire. */
  "server/rooms/second": ["core/", "contract/", "server/kernel", "server/rooms/changes", "server/rooms/instruments", "server/rooms/run"],
  /** Entry files of the server's worker threads. */
  "server/threads": [
    "core/",
    "contract/",
    "server/kernel",
    "server/rooms/keeping",
    "server/rooms/run",
    "server/rooms/plans",
    "server/rooms/rigs",
    "server/rooms/sheets",
  ],
  server: ["core/", "server/"],
  "ui/kit": ["core/", "contract/", "workers"],
  "ui/cutter": ["core/", "workers", "ui/kit"],
  "ui/rooms/setups": ["core/", "workers", "ui/kit", "ui/cutter"],
  "ui/rooms/bench": ["core/", "workers", "ui/kit", "ui/cutter", "ui/rooms/second"],
  "ui/rooms/tension": ["core/", "workers", "ui/kit", "ui/cutter"],
  "ui/rooms/log": ["core/", "workers", "ui/kit", "ui/cutter", "ui/rooms/second"],
  "ui/rooms/sheets": ["core/", "ui/kit", "ui/cutter"],
  "ui/rooms/desk": ["core/", "workers", "ui/kit", "ui/cutter", "ui/rooms/setups", "ui/rooms/bench", "ui/rooms/tension", "ui/rooms/log", "ui/rooms/sheets"],
  "ui/rooms/list": ["core/", "ui/kit", "ui/cutter"],
  "ui/rooms/compare": ["core/", "ui/kit", "ui/cutter"],
  "ui/rooms/matches": ["core/", "workers", "ui/kit", "ui/cutter"],
  "ui/rooms/drawer": ["core/", "ui/kit", "ui/cutter"],
  "ui/rooms/keeping": ["core/", "ui/kit"],
  "ui/rooms/access": ["core/", "ui/kit"],
  "ui/rooms/plans": ["core/", "workers", "ui/kit", "ui/cutter", "ui/rooms/second"],
  "ui/rooms/rigs": ["core/", "workers", "ui/kit", "ui/cutter", "ui/rooms/second"],
  "ui/rooms/second": ["core/", "contract/second", "ui/kit"],
  /** What still works without the server. */
  "ui/rooms/offline": ["core/", "ui/kit", "ui/rooms/log", "ui/rooms/second"],
  "ui/rooms/start": ["core/", "workers", "ui/kit", "ui/cutter"],
  cli: ["core/", "server/"],
  /** Pages and routes put rooms on show and hold nothing themselves. */
  app: ["core/", "server/", "server", "ui/"],
  /** The framework's own two entry files. */
  "": ["server", "server/"],
};

/** Packages that only some rooms may know: the core stays free of interface, server and Node. */
export const PACKAGES: Readonly<Record<string, string>> = {
  "core/": "^(react|react-dom|next|@mui/|@emotion/|chart\\.js|drizzle-orm|@electric-sql/)",
  "ui/": "^(drizzle-orm|@electric-sql/)",
  workers: "^(react|react-dom|next|@mui/|drizzle-orm|@electric-sql/)",
};

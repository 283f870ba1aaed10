/** Cutters drawn on one page of the list. Apart from the screen, so that the server can read it. */
export const CUTTERS_A_PAGE = 40;

/** What reports and the command line say they were made by. */
export const VERSION = '0.1.0';

/** Sheets of style are taken in by the build; to the types they are nothing. */
declare module '*.css';

/** The demo threads in a file of their own: they are wanted once, at the very first start. */
export { demoThreads } from '@mile-thread/core';

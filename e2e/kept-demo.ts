import { keepDemo } from '../server/testing/running';

/** Before the first browser test: the demo is laid out once, for the servers of all workers. */
export default keepDemo;

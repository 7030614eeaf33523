// What the page brings along beside our modules.
declare const Alpine: {
  data(name: string, make: () => object): void;
  raw<T>(value: T): T;
};

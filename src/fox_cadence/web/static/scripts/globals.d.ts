// What the page brings along beside our modules.
declare const Alpine: {
  data(name: string, make: () => object): void;
  nextTick(then: () => void): Promise<void>;
  raw<T>(value: T): T;
};

/** The basic distribution ships without types; only what the charts use. */
declare module 'plotly.js-basic-dist-min' {
  const Plotly: {
    react(target: HTMLElement, data: object[], layout: object, config: object): Promise<void>;
    purge(target: HTMLElement): void;
  };
  export default Plotly;
}

// For imports of movesets and opponents, where no types of their own stand beside them.
declare module '*.yaml' {
  const plan: import('loggia').Plan;
  export default plan;
}
declare module '*.yml' {
  const plan: import('loggia').Plan;
  export default plan;
}
declare module '*?moveset' {
  const plan: import('loggia').Plan;
  export default plan;
}
declare module '*?opponent' {
  const source: import('loggia/arena').OpponentSource;
  export default source;
}

// For imports of movesets, where the plugin of loggia/vite writes no types of their own.
declare module '*.yaml' {
  const plan: import('loggia').Plan;
  export default plan;
}
declare module '*.yml' {
  const plan: import('loggia').Plan;
  export default plan;
}

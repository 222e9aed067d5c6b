export {
  type RapierCollider,
  type RapierModule,
  type RapierPhysics,
  RapierWorld,
  type RapierWorldOptions,
} from './rapier-world.js';

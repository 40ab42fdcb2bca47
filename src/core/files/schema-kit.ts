/** JSON Schemas that carry the type of what they describe: a record's type and what is checked of it are written once. */
import Type, { type TOptional, type TSchema, type TUnsafe } from "typebox";

/** A schema of a T. */
export type Schema<T> = TUnsafe<T>;
export type Shape = Readonly<Record<string, TSchema>>;
/** What a schema describes. */
export type SchemaType<S> = S extends TUnsafe<infer T> ? T : never;
type Flat<T> = { readonly [K in keyof T]: T[K] };
/** The object with these members, those that are optional absent or there. */
export type Members<P extends Shape> = Flat<
  { readonly [K in keyof P as P[K] extends TOptional ? never : K]: SchemaType<P[K]> } & {
    readonly [K in keyof P as P[K] extends TOptional ? K : never]?: SchemaType<P[K]>;
  }
>;

/** A schema of which the compiler takes the type on trust: where it checks less than the type says, or says it otherwise. */
export const schemaOf = <T>(schema: object): Schema<T> => Type.Unsafe<T>(schema);

export const optional = <T>(schema: Schema<T>): TOptional<Schema<T>> => Type.Optional(schema) as TOptional<Schema<T>>;

export const object = <P extends Shape>(members: P): Schema<Members<P>> =>
  schemaOf({
    type: "object",
    properties: members,
    required: Object.keys(members).filter((k) => !Type.IsOptional(members[k])),
    additionalProperties: false,
  });
export const list = <T>(items: Schema<T>, more: { readonly minItems?: number; readonly maxItems?: number } = {}) =>
  schemaOf<readonly T[]>({ type: "array", items, ...more });
export const map = <T>(values: Schema<T>) =>
  schemaOf<Readonly<Record<string, T>>>({ type: "object", additionalProperties: values });
export const words = <const W extends string | number>(values: readonly W[]) => schemaOf<W>({ enum: [...values] });
export const only = <const W extends string | number | boolean>(value: W) => schemaOf<W>({ const: value });
export const nullOr = <T>(schema: Schema<T>) => schemaOf<T | null>({ anyOf: [schema, { type: "null" }] });
/** One of several objects, told apart by their `kind`. */
export const byKind = <const S extends readonly Schema<{ readonly kind: string }>[]>(schemas: S) =>
  schemaOf<SchemaType<S[number]>>({ type: "object", required: ["kind"], oneOf: schemas });

type Equal<A, B> = (<G>() => G extends A ? 1 : 2) extends <G>() => G extends B ? 1 : 2 ? true : false;
/** A schema whose type is exactly T: the compiler refuses it as soon as one of the two says otherwise. */
export const exactly =
  <T>() =>
  <S>(schema: Schema<S> & (Equal<S, T> extends true ? unknown : { readonly differs: [S, T] })): Schema<T> =>
    schema as unknown as Schema<T>;
/** Members that together are exactly a T. */
export const membersOf =
  <T>() =>
  <P extends Shape>(
    members: P & (Equal<Members<P>, Flat<T>> extends true ? unknown : { readonly differs: [Members<P>, Flat<T>] }),
  ): P =>
    members;

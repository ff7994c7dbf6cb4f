import {
  DataTypes,
  Model,
  Sequelize,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
} from 'sequelize';
import type { Frame } from '../../core/frame/frame';
import type { Pigment } from '../../core/colour/pigments';
import type { BatchWork } from '../../core/treatment/batch';
import type { Operation } from '../../core/treatment/patch';
import type { Treatment } from '../../core/treatment/treatment';
import { parseTreatment } from '../../core/treatment/schema';
import type { SendOutSettings } from '../../contract/send-outs';

export class Series extends Model<InferAttributes<Series>, InferCreationAttributes<Series>> {
  declare id: CreationOptional<string>;
  declare title: string;
  declare caption: CreationOptional<string>;
  declare coverId: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
  declare touchedAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
  /** It ships with the application. */
  declare demo: CreationOptional<boolean>;
}

export class Photograph extends Model<InferAttributes<Photograph>, InferCreationAttributes<Photograph>> {
  declare id: CreationOptional<string>;
  declare seriesId: string;
  declare place: number;
  declare title: string;
  declare fileName: string;
  declare sha256: string;
  declare mediaType: string;
  declare width: number;
  declare height: number;
  declare bits: 8 | 16;
  declare grey: boolean;
  declare profile: string | null;
  declare damage: CreationOptional<string | null>;
  declare part: CreationOptional<string | null>;
  /** When it was taken, by its camera's clock; null where that is not known, or not read yet. */
  declare taken: CreationOptional<string | null>;
  /** The camera's make and model, and who took it, as the file says. */
  declare camera: CreationOptional<string | null>;
  declare author: CreationOptional<string | null>;
  /** Which page of its file it is, from 0. */
  declare page: CreationOptional<number>;
  declare takenRead: CreationOptional<boolean>;
  declare caption: CreationOptional<string>;
  declare currentTakeId: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}

export class Take extends Model<InferAttributes<Take>, InferCreationAttributes<Take>> {
  declare id: CreationOptional<string>;
  declare photographId: string;
  declare letter: string;
  declare name: CreationOptional<string>;
  /** Among the takes of its photograph; those of one place stand by their letters. */
  declare place: CreationOptional<number>;
  declare revision: CreationOptional<number>;
  declare currentState: CreationOptional<number>;
  declare redoTip: CreationOptional<number>;
  /** The name of the last change, where it had one. */
  declare lastCommand: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}

export class TakeState extends Model<InferAttributes<TakeState>, InferCreationAttributes<TakeState>> {
  declare takeId: string;
  declare number: number;
  declare parent: number | null;
  declare label: string;
  /** What made it of its parent; null where it is kept whole. */
  declare patch: Operation[] | null;
  declare treatment: Treatment | null;
  /** Kinds of the steps that are on, in order, and how many steps there are. */
  declare kinds: string[];
  declare steps: number;
  /** The shared looks that its steps follow. */
  declare looks: CreationOptional<string[]>;
  /** Its frame; null for one that was kept before this was told. */
  declare frame: CreationOptional<Frame | null>;
  /** Patches, and their characters, since the last state that is whole. */
  declare patchesSince: number;
  declare bytesSince: number;
  declare createdAt: CreationOptional<Date>;
}

export type SendOutState = 'waiting' | 'paused' | 'running' | 'done' | 'failed' | 'stopped';

export class SendOut extends Model<InferAttributes<SendOut>, InferCreationAttributes<SendOut>> {
  declare id: CreationOptional<string>;
  declare takeId: string;
  declare seriesId: string;
  declare treatment: Treatment;
  declare settings: SendOutSettings;
  declare fileName: string;
  declare state: CreationOptional<SendOutState>;
  /** How often it has been begun. */
  declare attempt: CreationOptional<number>;
  declare progress: CreationOptional<number>;
  declare problem: CreationOptional<string | null>;
  /** What a finished file says of itself. */
  declare note: CreationOptional<string | null>;
  declare resultSha256: CreationOptional<string | null>;
  declare resultSize: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
  declare touchedAt: CreationOptional<Date>;
}

export class KeptSettings extends Model<
  InferAttributes<KeptSettings>,
  InferCreationAttributes<KeptSettings>
> {
  declare id: CreationOptional<string>;
  declare name: string;
  declare settings: SendOutSettings;
  declare createdAt: CreationOptional<Date>;
}

/** Whose pictures they are: one row. */
export class Credits extends Model<InferAttributes<Credits>, InferCreationAttributes<Credits>> {
  declare one: CreationOptional<boolean>;
  declare author: string;
  declare rights: string;
}

export class ColourTable extends Model<InferAttributes<ColourTable>, InferCreationAttributes<ColourTable>> {
  declare id: CreationOptional<string>;
  declare name: string;
  declare shelf: CreationOptional<string>;
  /** The text, as it is carried. */
  declare sha256: string;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}

export class KeptPigment extends Model<InferAttributes<KeptPigment>, InferCreationAttributes<KeptPigment>> {
  declare id: CreationOptional<string>;
  declare name: string;
  declare pigment: Pigment;
  declare depth: CreationOptional<number>;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}

export class KeptLook extends Model<InferAttributes<KeptLook>, InferCreationAttributes<KeptLook>> {
  declare id: CreationOptional<string>;
  declare name: string;
  declare group: string;
  declare treatment: Treatment;
  /** The series that shares it; null for one that is kept for all. */
  declare seriesId: CreationOptional<string | null>;
  /** Of one that is shared: counts its changes, and with which of them each of its steps came. */
  declare revision: CreationOptional<number>;
  declare since: CreationOptional<Record<string, number>>;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}

export type BatchState = 'running' | 'done' | 'stopped' | 'undone';

export class Batch extends Model<InferAttributes<Batch>, InferCreationAttributes<Batch>> {
  declare id: CreationOptional<string>;
  declare seriesId: string;
  declare label: string;
  declare work: (BatchWork | { do: 'follow'; look: string }) & { into: 'current' | 'new' };
  declare state: CreationOptional<BatchState>;
  declare createdAt: CreationOptional<Date>;
}

export class BatchItem extends Model<InferAttributes<BatchItem>, InferCreationAttributes<BatchItem>> {
  declare batchId: string;
  declare place: number;
  declare photographId: string;
  declare state: CreationOptional<'waiting' | 'done' | 'same' | 'failed' | 'undone'>;
  declare problem: CreationOptional<string | null>;
  /** The name of its change, so that it is made once. */
  declare command: string;
  /** The take that was changed or made, and its state then; the take that was shown before. */
  declare takeId: CreationOptional<string | null>;
  declare beforeTake: CreationOptional<string | null>;
  declare afterState: CreationOptional<number | null>;
}

/** Connects to a database and binds the models to it. One database a process. */
export function connect(databaseUrl: string): Sequelize {
  const sequelize = new Sequelize(databaseUrl, {
    dialect: 'postgres',
    logging: false,
    pool: { max: 10, idle: 10_000 },
    define: { timestamps: false, underscored: true },
  });
  // Made anew for each column: what is given is written into, and two columns of one object would be one column.
  const id = () => ({ type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 });
  const time = () => ({ type: DataTypes.DATE, defaultValue: DataTypes.NOW });
  const text = DataTypes.TEXT;
  const integer = DataTypes.INTEGER;

  Series.init(
    {
      id: id(),
      title: text,
      caption: { type: text, defaultValue: '' },
      coverId: DataTypes.UUID,
      createdAt: time(),
      touchedAt: time(),
      deletedAt: DataTypes.DATE,
      demo: { type: DataTypes.BOOLEAN, defaultValue: false },
    },
    { sequelize, tableName: 'series' },
  );
  Photograph.init(
    {
      id: id(),
      seriesId: DataTypes.UUID,
      place: DataTypes.DOUBLE,
      title: text,
      fileName: text,
      sha256: text,
      mediaType: text,
      width: integer,
      height: integer,
      bits: DataTypes.SMALLINT,
      grey: DataTypes.BOOLEAN,
      profile: text,
      damage: text,
      part: text,
      taken: text,
      camera: text,
      author: text,
      page: { type: DataTypes.INTEGER, defaultValue: 0 },
      takenRead: { type: DataTypes.BOOLEAN, defaultValue: false },
      caption: { type: text, defaultValue: '' },
      currentTakeId: DataTypes.UUID,
      createdAt: time(),
      deletedAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'photographs' },
  );
  Take.init(
    {
      id: id(),
      photographId: DataTypes.UUID,
      letter: text,
      name: { type: text, defaultValue: '' },
      place: { type: integer, defaultValue: 1_000_000 },
      revision: { type: integer, defaultValue: 1 },
      currentState: { type: integer, defaultValue: 0 },
      redoTip: { type: integer, defaultValue: 0 },
      lastCommand: DataTypes.UUID,
      createdAt: time(),
      deletedAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'takes' },
  );
  TakeState.init(
    {
      takeId: { type: DataTypes.UUID, primaryKey: true },
      number: { type: integer, primaryKey: true },
      parent: integer,
      label: text,
      patch: DataTypes.JSONB,
      treatment: DataTypes.JSONB,
      kinds: DataTypes.JSONB,
      steps: integer,
      looks: { type: DataTypes.JSONB, defaultValue: [] },
      frame: DataTypes.JSONB,
      patchesSince: integer,
      bytesSince: integer,
      createdAt: time(),
    },
    { sequelize, tableName: 'take_states' },
  );
  /** Read as a treatment is, so that one that an earlier version saved gets the settings it lacks. */
  const treatment = () => ({
    type: DataTypes.JSONB,
    get(this: Model): Treatment | undefined {
      // Absent where a query asked for other columns only.
      const saved = this.getDataValue('treatment');
      return saved === undefined ? undefined : parseTreatment(saved);
    },
  });
  SendOut.init(
    {
      id: id(),
      takeId: DataTypes.UUID,
      seriesId: DataTypes.UUID,
      treatment: treatment(),
      settings: DataTypes.JSONB,
      fileName: text,
      state: { type: text, defaultValue: 'waiting' },
      attempt: { type: integer, defaultValue: 0 },
      progress: { type: DataTypes.REAL, defaultValue: 0 },
      problem: text,
      note: text,
      resultSha256: text,
      resultSize: DataTypes.BIGINT,
      createdAt: time(),
      touchedAt: time(),
    },
    { sequelize, tableName: 'send_outs' },
  );
  KeptSettings.init(
    { id: id(), name: text, settings: DataTypes.JSONB, createdAt: time() },
    { sequelize, tableName: 'send_out_settings' },
  );
  Credits.init(
    { one: { type: DataTypes.BOOLEAN, primaryKey: true, defaultValue: true }, author: text, rights: text },
    { sequelize, tableName: 'credits' },
  );
  ColourTable.init(
    {
      id: id(),
      name: text,
      shelf: { type: text, defaultValue: '' },
      sha256: text,
      createdAt: time(),
      deletedAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'colour_tables' },
  );
  KeptPigment.init(
    {
      id: id(),
      name: text,
      pigment: DataTypes.JSONB,
      depth: DataTypes.DOUBLE,
      createdAt: time(),
      deletedAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'pigments' },
  );
  KeptLook.init(
    {
      id: id(),
      name: text,
      group: text,
      treatment: treatment(),
      seriesId: DataTypes.UUID,
      revision: { type: integer, defaultValue: 1 },
      since: { type: DataTypes.JSONB, defaultValue: {} },
      createdAt: time(),
      deletedAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'looks' },
  );
  Batch.init(
    {
      id: id(),
      seriesId: DataTypes.UUID,
      label: text,
      work: DataTypes.JSONB,
      state: { type: text, defaultValue: 'running' },
      createdAt: time(),
    },
    { sequelize, tableName: 'batches' },
  );
  BatchItem.init(
    {
      batchId: { type: DataTypes.UUID, primaryKey: true },
      place: { type: integer, primaryKey: true },
      photographId: DataTypes.UUID,
      state: { type: text, defaultValue: 'waiting' },
      problem: text,
      command: DataTypes.UUID,
      takeId: DataTypes.UUID,
      beforeTake: DataTypes.UUID,
      afterState: integer,
    },
    { sequelize, tableName: 'batch_items' },
  );
  return sequelize;
}

export interface SideProps {
  /** Gives the focus to what comes next beside the picture. */
  onGoOn: () => void;
}

import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { create } from 'zustand';

interface Question {
  title: string;
  /** What is lost, and what is not. */
  text: string;
  /** The button that does it. */
  action: string;
  answer: (yes: boolean) => void;
}

const useQuestion = create<{ question: Question | undefined; open: boolean }>(() => ({
  question: undefined,
  open: false,
}));

/** Asks before something is lost. */
export function ask(question: Omit<Question, 'answer'>): Promise<boolean> {
  return new Promise((answer) => useQuestion.setState({ question: { ...question, answer }, open: true }));
}

/** Where questions are asked; once on a page. */
export function Questioner() {
  const { question, open } = useQuestion();
  const answer = (yes: boolean): void => {
    useQuestion.setState({ open: false });
    question?.answer(yes);
  };
  return (
    <Dialog open={open} onClose={() => answer(false)} aria-labelledby="question">
      <DialogTitle id="question">{question?.title}</DialogTitle>
      <DialogContent sx={{ maxWidth: 460 }}>{question?.text}</DialogContent>
      <DialogActions>
        <Button variant="contained" color="primary" autoFocus onClick={() => answer(true)}>
          {question?.action}
        </Button>
        <Button variant="text" onClick={() => answer(false)}>
          Leave it
        </Button>
      </DialogActions>
    </Dialog>
  );
}

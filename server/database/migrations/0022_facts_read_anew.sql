-- Frames are read again for what is new among their facts; it happens by itself at the next start.
UPDATE `frames` SET `facts` = NULL;

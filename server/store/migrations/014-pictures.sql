-- a picture's bytes lie in the store of pictures; here only where there is none, or until they are moved there
ALTER TABLE photos MODIFY bytes LONGBLOB NULL;

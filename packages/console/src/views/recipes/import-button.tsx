import type { RecipeInput } from '@pragmatica/contract';
import { Upload } from 'lucide-react';
import { useRef } from 'react';
import { useNavigate } from 'react-router';
import { useImportRecipe } from '../../api/mutations';
import { Button } from '../../ui/button';
import { useToast } from '../../ui/toast';
import { RECIPES } from '../../texts/recipes';
import { say } from '../../texts/say';

/** Takes recipes from files, each by itself. */
export function ImportButton() {
  const input = useRef<HTMLInputElement>(null);
  const toast = useToast();
  const navigate = useNavigate();
  const change = useImportRecipe();
  const read = async (file: File): Promise<void> => {
    let recipe: RecipeInput;
    try {
      recipe = JSON.parse(await file.text()) as RecipeInput;
    } catch {
      toast({
        tone: 'problem',
        title: say(RECIPES.notARecipe, { file: file.name }),
        text: RECIPES.recipeJsonFile,
      });
      return;
    }
    change.run(recipe, (added) => {
      const { key, name } = added.recipe;
      toast({
        tone: 'done',
        title: added.isNew
          ? say(RECIPES.nameThereVersion, { name, version: recipe.version })
          : say(RECIPES.nameHadVersion, { name }),
      });
      void navigate(`/recipes/${key}`);
    });
  };
  return (
    <>
      <Button isBusy={change.isPending} onClick={() => input.current?.click()}>
        <Upload className="size-4" aria-hidden /> {RECIPES.importFromFile}
      </Button>
      <input
        ref={input}
        type="file"
        accept="application/json,.json"
        multiple
        className="hidden"
        aria-label={RECIPES.recipeFiles}
        onChange={(event) => {
          for (const file of event.target.files ?? []) void read(file);
          event.target.value = '';
        }}
      />
    </>
  );
}

import { serve } from "./serve";

serve();
